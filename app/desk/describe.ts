import { fieldsSet, rowIn, type Patch, type World } from "#core/plan";
import { fieldWord, valueWord } from "../keep/fieldWords";

const THINGS: Partial<Record<Patch["kind"], string>> = {
  plans: "the plan's settings",
  equipment: "a model of the library",
  measurements: "a reading",
};

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
  const thing = THINGS[kind];
  if (thing) return `${remove ? "removed" : put ? "added" : "changed"} ${thing}`;
  const name = nameOf(kept, world, patch);
  if (put) return `added ${name}`;
  if (remove) return `removed ${name}`;
  const before = (rowIn(kept, kind, id) ?? {}) as Record<string, unknown>;
  const after = patch.set as Record<string, unknown>;
  const changes = fieldsSet(patch).map(
    (field) =>
      `${fieldWord(field)} ${valueText(world, field, before[field])} → ${valueText(world, field, after[field])}`,
  );
  return `${name}: ${changes.join(", ")}`;
}

/** A value as people say it: kit by its model, an end by its radio's name. */
function valueText(world: World, field: string, value: unknown): string {
  const id = String(value);
  const model = { antennaModelId: world.antennaModels, radioModelId: world.radioModels }[field]?.get(id);
  const owner = field === "aRadioId" || field === "carrierId" ? world.radios.get(id)?.name : undefined;
  return model?.model ?? owner ?? valueWord(value);
}

const MOST_NAMED = 3;
/** Kinds that only follow from others: named when nothing else is. */
const FOLLOWING: Patch["kind"][] = ["carriers"];

/** A change as one line of the logbook. */
export function describePatches(kept: World, world: World, patches: readonly Patch[]): string {
  const leading = patches.filter(({ kind, set }) => set || !FOLLOWING.includes(kind));
  const told = leading.length > 0 ? leading : patches;
  const named = told.slice(0, MOST_NAMED).map((patch) => describeOne(kept, world, patch));
  const rest = told.length - named.length;
  return `${named.join("; ")}${rest > 0 ? `; and ${rest} more` : ""}`;
}
