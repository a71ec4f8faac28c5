import type { FieldPack } from "#wire";
import type { Entry } from "./keep";

type Place = NonNullable<FieldPack["ends"]>["a"]["place"];

/** The patch of a row that an entry holds, and null for notes and pictures. */
const patchOf = ({ op }: Entry) => (op && "patch" in op ? op.patch : null);

/** A place as this phone last wrote it: the pack's words, with what of the phone's waits or is still to be decided. */
export function asWritten(entries: readonly Entry[], planId: string, place: Place): Place {
  let written = place;
  for (const entry of entries) {
    const patch = patchOf(entry);
    const isOpen = entry.state === "waiting" || entry.state === "conflict";
    if (isOpen && entry.planId === planId && patch?.kind === place.kind && patch.id === place.id)
      written = { ...written, ...(patch.set as Partial<Place>) };
  }
  return written;
}

/** A pack with what the desk has kept of this phone's entries: they are no longer laid over it. */
export function withKept(pack: FieldPack, kept: readonly Entry[]): FieldPack {
  if (!pack.ends) return pack;
  const { a, b } = pack.ends;
  const settled = (end: typeof a): typeof a => {
    const asKept = kept.map((entry) => ({ ...entry, state: "waiting" as const }));
    return { ...end, place: asWritten(asKept, pack.planId, end.place) };
  };
  return { ...pack, ends: { a: settled(a), b: settled(b) } };
}
