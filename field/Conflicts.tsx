import type { FieldPack } from "#wire";
import { dropEntry } from "./keep";
import { Big } from "./parts";
import { useField } from "./useField";

/** Entries over which somebody has to decide: what was changed at the desk meanwhile, and what was refused. */
export function Conflicts({ pack }: { pack: FieldPack }) {
  const field = useField();
  const open = field.entries.filter(
    ({ visitId, state }) => visitId === pack.visit.id && (state === "conflict" || state === "refused"),
  );
  if (open.length === 0) return null;
  const leave = async (id: string) => {
    await dropEntry(id);
    await field.reload();
  };
  return (
    <section aria-label="To decide" className="mb-3 rounded-lg border-2 border-blocked p-3">
      <h2 className="font-semibold text-blocked">To decide</h2>
      <ul className="space-y-3">
        {open.map((entry) => {
          const { id, op, state, message, theirs, revision } = entry;
          const patch = op && "patch" in op ? op.patch : null;
          const [mine] = patch ? Object.values(patch.set) : [];
          return (
            <li key={id}>
              <p>{message}</p>
              {state === "conflict" && patch && (
                <dl className="text-sm">
                  <dt className="font-semibold">At the desk now</dt>
                  <dd className="whitespace-pre-wrap">{String(theirs ?? "–")}</dd>
                  <dt className="font-semibold">What you wrote</dt>
                  <dd className="whitespace-pre-wrap">{String(mine)}</dd>
                </dl>
              )}
              {state === "refused" && op && "note" in op && (
                <p className="text-sm">You wrote: {op.note.text || op.note.key}</p>
              )}
              <div className="mt-1 flex gap-2">
                <Big className="flex-1" onClick={() => void leave(id)}>
                  {state === "conflict" ? "Leave theirs" : "Let it go"}
                </Big>
                {state === "conflict" && patch && op && "patch" in op && (
                  <Big
                    className="flex-1"
                    look="primary"
                    onClick={() => void field.put(pack, op.what, patch, revision).then(() => leave(id))}
                  >
                    Put mine
                  </Big>
                )}
              </div>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
