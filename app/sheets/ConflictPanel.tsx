import { canKeepMine, ConflictRow } from "../keep/ConflictRow";
import type { ConflictWire } from "../keep/answer";
import { Button } from "../ui";
import { useDesk } from "../desk/DeskContext";

const SMALL = "px-1.5 py-0 text-xs";

/** The two ways to settle a conflict. */
function Settle({ conflict }: { conflict: ConflictWire }) {
  const { draft } = useDesk();
  return (
    <span className="inline-flex gap-1.5">
      <Button className={SMALL} onClick={() => draft.settle(conflict, "theirs")}>
        Take theirs
      </Button>
      {canKeepMine(conflict) && (
        <Button className={SMALL} onClick={() => draft.settle(conflict, "mine")}>
          Keep mine
        </Button>
      )}
    </span>
  );
}

/** Everything in hand that others have changed meanwhile, above the change bar. */
export function ConflictPanel() {
  const { draft } = useDesk();
  if (draft.conflicts.length === 0) return null;
  return (
    <section
      role="alert"
      aria-label="Changed by others meanwhile"
      className="max-h-40 shrink-0 space-y-1 overflow-y-auto border-t border-tight bg-panel px-3 py-2"
    >
      <p className="text-[13px] font-semibold">
        Not kept: somebody has changed the same meanwhile. Choose whose stands, then keep.
      </p>
      {draft.conflicts.map((conflict) => (
        <ConflictRow key={`${conflict.kind} ${conflict.id} ${conflict.field}`} conflict={conflict}>
          <Settle conflict={conflict} />
        </ConflictRow>
      ))}
    </section>
  );
}

/** Shows the conflict of one field beside its control; renders nothing if the field has no conflict. */
export function FieldConflict({ kind, id, field }: Pick<ConflictWire, "kind" | "id" | "field">) {
  const { draft } = useDesk();
  const conflict = draft.conflicts.find((one) => one.kind === kind && one.id === id && one.field === field);
  if (!conflict) return null;
  return (
    <div className="col-span-2 rounded border border-tight px-2 py-1">
      <ConflictRow conflict={conflict} withName={false}>
        <Settle conflict={conflict} />
      </ConflictRow>
    </div>
  );
}
