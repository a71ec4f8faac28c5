import { peakGainDbi } from "../antenna";
import type { LinkEnd } from "../plan";
import { channelNoise } from "../spectrum";
import { figure, inOnePiece } from "../words";

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
  /** Power sum on one chain, dBm; null where nothing is heard. */
  dbm: number | null;
  /** Strongest first. */
  radios: readonly HeardRadio[];
}

/** How far noise stands above thermal on one chain, and what makes it. */
export interface NoiseRise {
  riseDb: number;
  /** What makes most of it. */
  source: "none" | "set" | "scan" | "own";
  /** The rise without the plan's own transmitters, dB. */
  outsideDb: number;
  reason: string;
}

/**
 * How far noise stands above thermal at a receiver: what its radio is set to, or what a scan at its place heard in the
 * channel where that is more, and on top the plan's own transmitters in `heard`. A scan speaks through its own antenna; the
 * receiver's is taken to hear so much more as its peak gain is higher.
 */
export function noiseRise(
  to: LinkEnd,
  thermalDbm: number,
  headingDeg: number,
  { frequencyMHz, widthMHz }: { frequencyMHz: number; widthMHz: number },
  heard: OwnNoise | null,
): NoiseRise {
  const outside = outsideRise(to, thermalDbm, headingDeg, frequencyMHz, widthMHz);
  const ownDbm = heard?.dbm ?? null;
  if (ownDbm === null) return outside;
  const outsideMw = 10 ** ((thermalDbm + outside.riseDb) / 10);
  const ownMw = 10 ** (ownDbm / 10);
  const riseDb = 10 * Math.log10(outsideMw + ownMw) - thermalDbm;
  // Under that much nobody would look for it.
  if (riseDb - outside.riseDb < LEAST_TOLD_DB) return { ...outside, riseDb };
  const [first, ...others] = heard!.radios;
  const own = `${first!.placeName === "" ? "" : "the plan's own "}${heardName(first!)} on ${first!.frequencyMHz} MHz, ${figure(first!.dbm, 0)} dBm here${others.length > 0 ? `, and ${others.length} more` : ""}`;
  return {
    riseDb,
    outsideDb: outside.riseDb,
    source: ownMw > outsideMw - 10 ** (thermalDbm / 10) ? "own" : outside.source,
    reason: inOnePiece(outside.riseDb > 0 ? `${own}; ${outside.reason}` : own),
  };
}
const LEAST_TOLD_DB = 0.1;

/** The rise that others make. */
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
    source: "scan",
    reason: `scan of ${scannedAt.slice(0, 10)} toward ${Math.round(noise.scan.headingDeg)}°, ${polarization}, through ${gainDbi} dBi`,
  };
}
