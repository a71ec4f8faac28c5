import { declared, fieldOf, fieldsSet, fieldWord, rowIn, valueWord, type Patch, type World } from "#core/plan";

/** Kinds whose rows have no name of their own: they are called by their kind. */
const NAMELESS: readonly Patch["kind"][] = ["plans", "equipment", "measurements"];

/** How people call the thing of a patch: a link by its far radio, a channel by whose it is. */
function nameOf(kept: World, world: World, { kind, id, put }: Patch): string {
  if (kind === "links") {
    const link = world.links.get(id) ?? kept.links.get(id);
    const far = link && (world.radios.get(link.bRadioId) ?? kept.radios.get(link.bRadioId));
    return `link ${far?.name ?? "?"}`;
  }
  if (kind === "carriers") {
    const radios = [...world.radios.values(), ...kept.radios.values()];
    const owner = radios.find((radio) => radio.id === id) ?? radios.find(({ carrierId }) => carrierId === id);
    return `channel of ${owner?.name ?? "?"}`;
  }
  const row = put ?? rowIn(world, kind, id) ?? rowIn(kept, kind, id);
  return String((row as { name?: string } | null)?.name ?? id);
}

/** What a patch changes, in words for the logbook: "Lighthouse to quarry: height 9 → 13.5". */
function describeOne(kept: World, world: World, patch: Patch): string {
  const { kind, id, put, remove } = patch;
  if (NAMELESS.includes(kind)) {
    const article = kind === "plans" ? "the" : "a";
    return `${remove ? "removed" : put ? "added" : "changed"} ${article} ${declared(kind).one}`;
  }
  const name = nameOf(kept, world, patch);
  if (put) return `added ${name}`;
  if (remove) return `removed ${name}`;
  const before = (rowIn(kept, kind, id) ?? {}) as Record<string, unknown>;
  const after = patch.set as Record<string, unknown>;
  const changes = fieldsSet(patch).map(
    (field) =>
      `${fieldWord(kind, field)} ${valueText(world, kind, field, before[field])} → ${valueText(world, kind, field, after[field])}`,
  );
  return `${name}: ${changes.join(", ")}`;
}

/** A value as people say it: kit by its model, an end by its radio's name. */
function valueText(world: World, kind: Patch["kind"], field: string, value: unknown): string {
  const to = fieldOf(kind, field)?.facts.refersTo?.to;
  if (typeof value !== "string" || typeof to !== "string") return valueWord(kind, field, value);
  // A channel is named after the radio that it belongs to.
  const row = rowIn(world, (to === "carriers" ? "radios" : to) as Patch["kind"], value);
  const { name, body } = (row ?? {}) as { name?: string; body?: { model?: string } };
  return body?.model ?? name ?? value;
}

const MOST_NAMED = 3;
/** A change as one line of the logbook. */
export function describePatches(kept: World, world: World, patches: readonly Patch[]): string {
  const leading = patches.filter(({ kind, set }) => set || !declared(kind).follows);
  const told = leading.length > 0 ? leading : patches;
  const named = told.slice(0, MOST_NAMED).map((patch) => describeOne(kept, world, patch));
  const rest = told.length - named.length;
  return `${named.join("; ")}${rest > 0 ? `; and ${rest} more` : ""}`;
}
