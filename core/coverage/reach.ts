import { peakGainDbi } from "../antenna";
import { receivedShare, wallDb } from "../link";
import type { LinkEnd, Radio, World } from "../plan";
import { endOf } from "../plan";
import { freeSpaceLossDb, gasAttenuation, thermalNoiseDbm } from "../propagation";
import { clientEnd, usualClient } from "./budget";

/** Farther than this nothing is told, km. */
const FARTHEST_KM = 10_000;

/**
 * How far one end hears another that looks at it on its channel, down to the thermal noise of one chain, in free sight, km: the tape's own
 * budget with power, cables, walls, both gains on their polarizations, the share of one chain and gases.
 */
export function freelyHeardKm(ear: LinkEnd, voice: LinkEnd): number {
  const { frequencyMHz, widthMHz } = ear.radio;
  const frequencyGHz = frequencyMHz / 1000;
  const { txPowerDbm, cableLossDb, polarization } = voice.radio;
  const spareDb =
    txPowerDbm -
    cableLossDb -
    wallDb(voice, frequencyGHz) +
    peakGainDbi(voice.antenna, frequencyMHz, polarization) +
    peakGainDbi(ear.antenna, frequencyMHz, ear.radio.polarization) +
    receivedShare(voice, ear, { frequencyMHz, widthMHz }, frequencyMHz).sumDb -
    thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: ear.model.noiseFigureDb }) -
    freeSpaceLossDb({ distanceKm: 1, frequencyGHz });
  const { oxygenDbPerKm, vapourDbPerKm } = gasAttenuation({ frequencyGHz });
  const dbPerKm = oxygenDbPerKm + vapourDbPerKm;
  // 20 log d + γ·d = what is spare: free space alone reaches farther, and Newton's steps come down from there.
  let km = Math.min(FARTHEST_KM, 10 ** (spareDb / 20));
  for (let step = 0; step < MOST_STEPS; step++) {
    const overDb = 20 * Math.log10(km) + dbPerKm * km - spareDb;
    const next = Math.max(km / 10, km - overDb / (20 / (Math.LN10 * km) + dbPerKm));
    if (Math.abs(next - km) < km * 1e-9) break;
    km = Math.min(FARTHEST_KM, next);
  }
  return km;
}
const MOST_STEPS = 60;

function withClient(world: World, sector: Radio): { near: LinkEnd; far: LinkEnd } | null {
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
