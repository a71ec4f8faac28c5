import { radiosTouched, type Patch, type Radio, type World } from "../plan";

/** What of a radio its neighbours hear; a height dragged by a metre is worked out for them when it is kept. */
const HEARD_FIELDS = [
  "frequencyMHz",
  "widthMHz",
  "txPowerDbm",
  "azimuthDeg",
  "polarization",
  "antennaModelId",
  "timingGroup",
] as const;
const isHeardOtherwise = (before: Radio | undefined, after: Radio | undefined) =>
  !before || !after || HEARD_FIELDS.some((field) => before[field] !== after[field]);

/**
 * Tells which radios may hear a change: those whose channel overlaps, or lies next to, that of a sector or bridge which it
 * changes, as it was or as it will be. Customers' own transmitters are left to when the change is kept.
 */
export function hearersOf(kept: World, changed: World, patches: readonly Patch[]): (radio: Radio) => boolean {
  const channels: Radio[] = [];
  for (const id of radiosTouched([kept, changed], patches)) {
    const [before, after] = [kept.radios.get(id), changed.radios.get(id)];
    if (!isHeardOtherwise(before, after)) continue;
    for (const radio of [before, after]) if (radio && radio.role !== "subscriber") channels.push(radio);
  }
  return (radio) =>
    channels.some(
      ({ frequencyMHz, widthMHz }) =>
        Math.abs(frequencyMHz - radio.frequencyMHz) < (widthMHz + radio.widthMHz) / 2 + radio.widthMHz,
    );
}
