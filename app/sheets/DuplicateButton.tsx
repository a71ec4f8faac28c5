import { freeName, putPatch, type Site, type Subscriber } from "#core/plan";
import { Button } from "../ui";
import { useDesk } from "../desk/DeskContext";

/** How far a copy stands from what it was copied from, degrees: enough to take hold of it. */
const COPY_OFFSET_DEG = 0.0005;

/** Puts a copy of a place beside it and chooses the copy. */
export function DuplicateButton({
  place,
}: {
  place: { kind: "site"; row: Site } | { kind: "subscriber"; row: Subscriber };
}) {
  const { world, draft, select } = useDesk();
  const { kind, row } = place;
  const duplicate = () => {
    const taken = kind === "site" ? world.sites : world.subscribers;
    const own = {
      id: crypto.randomUUID(),
      name: freeName(taken.values(), row.name),
      latDeg: row.latDeg + COPY_OFFSET_DEG,
      lonDeg: row.lonDeg + COPY_OFFSET_DEG,
    };
    draft.put([kind === "site" ? putPatch("sites", { ...row, ...own }) : putPatch("subscribers", { ...row, ...own })]);
    select({ kind, id: own.id });
  };
  return (
    <Button className="text-xs" onClick={duplicate}>
      Duplicate
    </Button>
  );
}
