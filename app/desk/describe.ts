import type { Patch, World } from "#core/plan";

/** What an patch changes, in words for the logbook: "Lighthouse to quarry: height 9 → 13.5". */
function describeOne(kept: World, world: World, patch: Patch): string {
  if (patch.kind === "plans" || patch.kind === "equipment" || patch.kind === "measurements")
    return `${patch.row === null ? "removed" : "changed"} ${THINGS[patch.kind]}`;
  const before = kept[patch.kind].get(patch.id) as Record<string, unknown> | undefined;
  const after = patch.row as unknown as Record<string, unknown> | null;
  const name =
    patch.kind === "links"
      ? `link ${[patch.row, kept.links.get(patch.id)].flatMap((link) => (link ? [world.radios.get(link.bRadioId)?.name ?? "?"] : []))[0]}`
      : String((after ?? before)?.name ?? patch.id);
  if (!before) return `added ${name}`;
  if (!after) return `removed ${name}`;
  const changes = Object.keys(after)
    .filter((key) => JSON.stringify(after[key]) !== JSON.stringify(before[key]))
    .map(
      (key) =>
        `${FIELD_WORDS[key] ?? key} ${valueText(world, key, before[key])} → ${valueText(world, key, after[key])}`,
    );
  return `${name}: ${changes.join(", ")}`;
}

const THINGS = { plans: "the plan's settings", equipment: "a model of the library", measurements: "a reading" };

/** A value as people say it: kit by its model, an end by its radio's name. */
function valueText(world: World, key: string, value: unknown): string {
  if (value === null || value === undefined || value === "") return "none";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return String(value).replace("-", "−");
  const known = { antennaModelId: world.antennaModels, radioModelId: world.radioModels }[key]?.get(String(value));
  return known?.model ?? (key === "aRadioId" ? world.radios.get(String(value))?.name : undefined) ?? String(value);
}

const FIELD_WORDS: Record<string, string> = {
  heightM: "height",
  txPowerDbm: "power",
  frequencyMHz: "frequency",
  widthMHz: "width",
  antennaModelId: "antenna",
  radioModelId: "radio",
  polarization: "polarization",
  azimuthDeg: "azimuth",
  tiltDownDeg: "tilt",
  cableLossDb: "cable loss",
  bracketTurned: "bracket turned over",
  aRadioId: "from",
  foliageDepthM: "trees",
};

const MOST_NAMED = 3;

/** A change as one line of the logbook. */
export function describePatches(kept: World, world: World, patches: readonly Patch[]): string {
  const named = patches.slice(0, MOST_NAMED).map((patch) => describeOne(kept, world, patch));
  const rest = patches.length - named.length;
  return `${named.join("; ")}${rest > 0 ? `; and ${rest} more` : ""}`;
}
