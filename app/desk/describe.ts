import type { Edit, World } from "#core/plan";

/** What an edit changes, in words for the logbook: "Lighthouse to quarry: height 9 → 13.5". */
function describeOne(kept: World, world: World, edit: Edit): string {
  if (edit.kind === "plans" || edit.kind === "equipment" || edit.kind === "measurements") return `changed ${edit.kind}`;
  const before = kept[edit.kind].get(edit.id) as Record<string, unknown> | undefined;
  const after = edit.row as unknown as Record<string, unknown> | null;
  const name =
    edit.kind === "links"
      ? `link ${[edit.row, kept.links.get(edit.id)].flatMap((link) => (link ? [world.radios.get(link.bRadioId)?.name ?? "?"] : []))[0]}`
      : String((after ?? before)?.name ?? edit.id);
  if (!before) return `added ${name}`;
  if (!after) return `removed ${name}`;
  const changes = Object.keys(after)
    .filter((key) => JSON.stringify(after[key]) !== JSON.stringify(before[key]))
    .map((key) => `${FIELD_WORDS[key] ?? key} ${String(before[key])} → ${String(after[key])}`);
  return `${name}: ${changes.join(", ")}`;
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
export function describeEdits(kept: World, world: World, edits: readonly Edit[]): string {
  const named = edits.slice(0, MOST_NAMED).map((edit) => describeOne(kept, world, edit));
  const rest = edits.length - named.length;
  return `${named.join("; ")}${rest > 0 ? `; and ${rest} more` : ""}`;
}
