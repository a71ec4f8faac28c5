import { hearingKm, peakGainDbi } from "../antenna";
import type { LinkEnd, Radio, World } from "../plan";
import { endOf } from "../plan";
import { thermalNoiseDbm } from "../propagation";
import { clientEnd, usualClient } from "./budget";

type Air = Pick<LinkEnd, "radio" | "model" | "antenna">;

/** How far one end hears another that looks at it, down to its thermal noise, in free sight, km. */
export function freelyHeardKm(ear: Air, voice: Air): number {
  const { frequencyMHz, widthMHz } = ear.radio;
  return hearingKm(ear.antenna, 0, {
    eirpDbm: voice.radio.txPowerDbm + peakGainDbi(voice.antenna, frequencyMHz),
    noiseDbm: thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: ear.model.noiseFigureDb }),
    frequencyMHz,
  });
}

function withClient(world: World, sector: Radio): { near: Air; far: Air } | null {
  const kit = usualClient(world, sector);
  return kit && { near: endOf(world, sector.id), far: clientEnd(world, sector, kit) };
}

/** How far a sector hears its usual customer's transmitter, km; null where the library has no such kit. */
export function sectorHearsKm(world: World, sector: Radio): number | null {
  const ends = withClient(world, sector);
  return ends && freelyHeardKm(ends.near, ends.far);
}

/** How far such a customer's antenna hears the sector at its power, km; null where the library has no such kit. */
export function sectorHeardKm(world: World, sector: Radio): number | null {
  const ends = withClient(world, sector);
  return ends && freelyHeardKm(ends.far, ends.near);
}

/**
 * How much farther a sector hears than it needs to: receive gain cannot be turned down, and whatever stands out there at a customer's
 * power is noise to it. Null where the library has no customer's kit for it, or nobody is served.
 */
export function reachWords(world: World, sector: Radio, farthestM: number | null): string | null {
  const km = sectorHearsKm(world, sector);
  if (km === null || farthestM === null) return null;
  const gain = peakGainDbi(endOf(world, sector.id).antenna, sector.frequencyMHz, sector.polarization).toFixed(0);
  return `${gain} dBi hear a customer’s transmitter that looks here out to ${km.toFixed(0)} km in free sight; the cell ends at ${(farthestM / 1000).toFixed(1)} km.`;
}
