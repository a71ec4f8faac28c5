import { peakGainDbi } from "../antenna";
import { noiseCorrectionOf, type Correction } from "../learn";
import type { LinkEnd, Plan } from "../plan";
import { channelNoise } from "../spectrum";
import { counted, figure, inOnePiece } from "../words";

/** A transmitter of the plan's own, or of an outsider with a place, as a receiver hears it in its channel. */
export interface HeardRadio {
  radioId: string;
  name: string;
  /** Empty for an outsider, whose name says where it stands. */
  placeName: string;
  /** The access point or near bridge end under which it talks. */
  group: string;
  frequencyMHz: number;
  widthMHz: number;
  /** Where it stands from the receiver, degrees; null for one on the same mast. */
  bearingDeg: number | null;
  /** Power on one chain of the receiver, what falls outside its channel left out, dBm. */
  dbm: number;
}

/** How whoever is heard is called, with where it stands. */
export const heardName = ({ name, placeName }: Pick<HeardRadio, "name" | "placeName">): string =>
  placeName === "" ? `the outsider ${name}` : `${name} at ${placeName}`;

/** What the plan's other transmitters, and outsiders with a place, put into a receiver's channel. */
export interface OwnNoise {
  /** Power sum on one chain over all that are heard, dBm; null where nothing is. */
  dbm: number | null;
  /** Each whose ground was looked at, strongest first. */
  radios: readonly HeardRadio[];
  /** Fainter ones, which count in the sum together. */
  faintCount: number;
}

/** By how much a noise rises when something more arrives in it, as powers add, dB. */
export const raisedByDb = (arrivingDbm: number, noiseDbm: number): number =>
  10 * Math.log10(1 + 10 ** ((arrivingDbm - noiseDbm) / 10));

/** How far noise stands above thermal on one chain, and what makes it. */
export interface NoiseRise {
  riseDb: number;
  /** What makes most of it. */
  source: "none" | "set" | "scan" | "own" | "learned";
  /** The rise without the plan's own transmitters, dB. */
  outsideDb: number;
  /** What of both readings taught, dB; below zero where they heard less than was reckoned with. 0 where they taught nothing. */
  learnedDb: number;
  reason: string;
}

/** What readings taught about a receiver's noise from outside the plan; null where nothing was, or it is switched off. */
export function learnedNoiseAt(plan: Plan, { place }: LinkEnd, frequencyMHz: number): Correction | null {
  if (!plan.learned?.isOn) return null;
  const { latDeg, lonDeg } = place;
  return noiseCorrectionOf(plan.learned, { frequencyGHz: frequencyMHz / 1000, latDeg, lonDeg });
}

/**
 * How far noise stands above thermal at a receiver: what its radio is set to, or what a scan at its place heard in the
 * channel where that is more, corrected by what readings taught, and on top the plan's own transmitters in `heard`. A scan speaks
 * through its own antenna; the receiver's is taken to hear so much more as its peak gain is higher. Noise is never below thermal.
 */
export function noiseRise(
  to: LinkEnd,
  thermalDbm: number,
  headingDeg: number,
  { frequencyMHz, widthMHz }: { frequencyMHz: number; widthMHz: number },
  heard: OwnNoise | null,
  learned: Correction | null,
): NoiseRise {
  const outside = corrected(outsideRise(to, thermalDbm, headingDeg, frequencyMHz, widthMHz), learned);
  const ownDbm = heard?.dbm ?? null;
  if (ownDbm === null) return outside;
  const outsideMw = 10 ** ((thermalDbm + outside.riseDb) / 10);
  const ownMw = 10 ** (ownDbm / 10);
  const riseDb = 10 * Math.log10(outsideMw + ownMw) - thermalDbm;
  // Under that much nobody would look for it.
  if (riseDb - outside.riseDb < LEAST_TOLD_DB) return { ...outside, riseDb };
  const [first] = heard!.radios;
  const moreCount = heard!.radios.length - 1 + heard!.faintCount;
  const own = `${first!.placeName === "" ? "" : "the plan's own "}${heardName(first!)} on ${first!.frequencyMHz} MHz, ${figure(first!.dbm, 0)} dBm here${moreCount > 0 ? `, and ${moreCount} more` : ""}`;
  return {
    riseDb,
    outsideDb: outside.riseDb,
    learnedDb: outside.learnedDb,
    source: ownMw > outsideMw - 10 ** (thermalDbm / 10) ? "own" : outside.source,
    reason: inOnePiece(outside.riseDb > 0 ? `${own}; ${outside.reason}` : own),
  };
}
const LEAST_TOLD_DB = 0.1;

function corrected(outside: NoiseRise, learned: Correction | null): NoiseRise {
  if (!learned) return outside;
  const riseDb = Math.max(0, outside.riseDb + learned.db);
  const learnedDb = riseDb - outside.riseDb;
  // Twice the power is where what readings taught makes most of it.
  const isMost = learnedDb > MOST_OF_POWER_DB;
  const words = `what ${counted(learned.readings, "reading")} taught`;
  return {
    riseDb,
    outsideDb: riseDb,
    learnedDb,
    source: isMost ? "learned" : outside.source,
    reason: outside.source === "none" ? words : `${outside.reason}, and ${words}`,
  };
}
const MOST_OF_POWER_DB = 10 * Math.log10(2);

/** The rise that others make, by what was set and scanned. */
function outsideRise(
  to: LinkEnd,
  thermalDbm: number,
  headingDeg: number,
  frequencyMHz: number,
  widthMHz: number,
): NoiseRise {
  const setDb = to.radio.interferenceDb;
  const set: NoiseRise = {
    riseDb: setDb,
    outsideDb: setDb,
    learnedDb: 0,
    source: setDb > 0 ? "set" : "none",
    reason: "as set on the radio",
  };
  const noise = channelNoise(to.scans, {
    headingDeg,
    polarization: to.radio.polarization,
    frequencyMHz,
    widthMHz,
  });
  if (!noise) return set;
  const gainDb = peakGainDbi(to.antenna, frequencyMHz) - noise.scan.gainDbi;
  const milliwatts = 10 ** (thermalDbm / 10) + 10 ** ((noise.powerDbm + gainDb - to.radio.cableLossDb) / 10);
  const riseDb = 10 * Math.log10(milliwatts) - thermalDbm;
  if (riseDb <= set.riseDb) return set;
  const { scannedAt, polarization, gainDbi } = noise.scan;
  return {
    riseDb,
    outsideDb: riseDb,
    learnedDb: 0,
    source: "scan",
    reason: `scan of ${scannedAt.slice(0, 10)} toward ${Math.round(noise.scan.headingDeg)}°, ${polarization}, through ${gainDbi} dBi`,
  };
}
