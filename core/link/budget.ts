import { patternLossDb, peakGainDbi, type Polarization } from "../antenna";
import type { Pointing } from "../aiming";
import type { Correction } from "../learn";
import type { LinkEnd, Plan } from "../plan";
import {
  buildingEntryLossDb,
  freeSpaceLossDb,
  gasAttenuation,
  rainAttenuationDb,
  thermalNoiseDbm,
  type LinearPolarization,
} from "../propagation";
import { airRateMbps, commonModulations, frameShare, sensitivityDbm, type Modulation } from "../radio";
import { capsFor, ruleUse, type EirpLimit } from "../regulation";
import { noiseRise, type NoiseRise, type OwnNoise } from "./noise";
import { beamTowardDb } from "./receiveBeam";
import type { TreesInRay } from "./trees";

/** What both directions of a path share. */
export interface PathLosses {
  distanceKm: number;
  diffractionDb: number;
  trees: TreesInRay;
  frequencyMHz: number;
  widthMHz: number;
  freeSpaceDb: number;
  oxygenDbPerKm: number;
  vapourDbPerKm: number;
  /** Rain rate exceeded for 0.01 % of the year, mm/h: the plan's or its latitude's. */
  rainRate001MmPerH: number;
  /** What readings taught about such a path; null where nothing was, or it is switched off. */
  learned: Correction | null;
}

export interface TapeQuestion {
  direction: "aToB" | "bToA";
  plan: Plan;
  /** Chooses between point-to-point and point-to-multipoint caps. */
  kind: "access" | "bridge";
  from: LinkEnd;
  to: LinkEnd;
  fromPointing: Pointing;
  toPointing: Pointing;
  path: PathLosses;
  /** What the plan's other transmitters put into the receiver's channel. */
  heard: OwnNoise | null;
  /** What readings taught about the receiver's noise; null where nothing was, or it is switched off. */
  learnedNoise: Correction | null;
  /** Decibels by which the access point turns the sender down from its set power, which `from` is without. */
  turnedDownDb: number;
  /** The ends cannot talk whatever the level: other channels, widths, duplexing, or nothing both can speak. */
  isMismatched: boolean;
}

/** The link budget of one direction in figures; `tapeLines` prints it. */
export interface Tape {
  question: TapeQuestion;
  fromGainDbi: number;
  toGainDbi: number;
  /** Loss off either boresight, dB ≥ 0. */
  fromOffDb: number;
  toOffDb: number;
  /** What a receive beam that looks at the sender adds to the far gain, dB; 0 without one. */
  beamDb: number;
  gasDb: number;
  fromWallDb: number;
  toWallDb: number;
  crossedDb: number;
  eirpDbm: number;
  limit: EirpLimit;
  /** Why the rules close the channel to the sender whatever its power; null where it is open. */
  closed: string | null;
  /** Decibels by which the transmitter must be turned down; 0 within the caps. */
  overCapDb: number;
  /** Power the radio actually sends at the chosen modulation, and how far that is under what it is set to. */
  sentDbm: number;
  backoffDb: number;
  /** Level of all chains together, and on each chain that carries the signal: `splitDb` under it. Fair weather. */
  totalLevelDbm: number;
  chainLevelDbm: number;
  splitDb: number;
  /** Decibels by which the strongest that arrives on a chain, at full power, is too much for the receiver; 0 within it. */
  overloadDb: number;
  /** Noise on one chain. */
  noiseDbm: number;
  /** How far interference lifts the noise above thermal, where from, and in which parts. */
  noise: NoiseRise;
  /** Of one chain. */
  snrDb: number;
  modulation: Modulation | null;
  /** Chains, each with a stream of its own. */
  chains: number;
  rateMbps: number;
  /** What the air alone would carry, where a data socket carries less; else null. */
  airRateMbps: number | null;
  /** Level on a chain at which the most robust modulation just holds. */
  sensitivityDbm: number;
  fadeMarginDb: number;
  rainDb: number;
  /** What is left of the fade margin in rain at the plan's availability. */
  marginLeftDb: number;
}

/** From here on rain counts, GHz. */
export const RAIN_COUNTS_FROM_GHZ = 10;
/** Pattern losses under this are not worth a line, dB. */
const LEAST_OFF_DB = 0.05;

/** The linear polarization that formulas for rain and ground take for a radio's; V, the milder in rain, only where all is V. */
export function linearOf(polarization: Polarization): LinearPolarization {
  return polarization === "V" ? "V" : "H";
}

const isSingle = ({ radio }: LinkEnd) => radio.polarization === "H" || radio.polarization === "V";

/**
 * Loss in dB of the power of all chains together where the two ends differ in polarization. Crossed linear ends keep what
 * the weaker isolation leaks. A sender on two polarizations loses the half that a receiver on one does not hear. A receiver on two
 * gathers all that arrives, whichever way it is turned: H/V facing ±45° loses nothing of the sum.
 */
export function polarizationLossDb(from: LinkEnd, to: LinkEnd): number {
  if (from.radio.polarization === to.radio.polarization) return 0;
  if (isSingle(from) && isSingle(to)) return Math.min(from.antenna.crossPolarDb, to.antenna.crossPolarDb);
  return isSingle(to) ? HALF_DB : 0;
}
const HALF_DB = 10 * Math.log10(2);

/** Streams that both ends can use: one when either stands on a single polarization. */
export function commonChains(a: LinkEnd, b: LinkEnd): number {
  return isSingle(a) || isSingle(b) ? 1 : Math.min(a.model.chains, b.model.chains);
}

/**
 * The level of all chains together less the level on one chain that carries the signal, dB. Between two dual ends the streams
 * share the power equally; a single polarization that meets chains at ±45° puts half its power on each.
 */
export function chainSplitDb(from: LinkEnd, to: LinkEnd): number {
  if (isSingle(from)) return to.radio.polarization === "X45" && to.model.chains > 1 ? HALF_DB : 0;
  return isSingle(to) ? 0 : 10 * Math.log10(commonChains(from, to));
}

/** Percentage of a year in which rain may break the link; P.530's method ends at 0.001 and 1 %. */
function rainPercent(plan: Plan): number {
  return Math.min(1, Math.max(0.001, 100 - plan.availabilityPercent));
}

/** Losses that do not depend on the direction, for one channel over one path. */
export function pathLosses(own: Omit<PathLosses, "freeSpaceDb" | "oxygenDbPerKm" | "vapourDbPerKm">): PathLosses {
  const frequencyGHz = own.frequencyMHz / 1000;
  const gas = standardGas(frequencyGHz);
  return {
    distanceKm: own.distanceKm,
    diffractionDb: own.diffractionDb,
    trees: own.trees,
    frequencyMHz: own.frequencyMHz,
    widthMHz: own.widthMHz,
    freeSpaceDb: freeSpaceLossDb({ distanceKm: own.distanceKm, frequencyGHz }),
    oxygenDbPerKm: gas.oxygenDbPerKm,
    vapourDbPerKm: gas.vapourDbPerKm,
    rainRate001MmPerH: own.rainRate001MmPerH,
    learned: own.learned,
  };
}

let gasKnown = { frequencyGHz: NaN, gas: { oxygenDbPerKm: 0, vapourDbPerKm: 0 } };
/** The standard atmosphere at one frequency; a plan asks for the same few again and again. */
function standardGas(frequencyGHz: number): { oxygenDbPerKm: number; vapourDbPerKm: number } {
  if (gasKnown.frequencyGHz !== frequencyGHz) gasKnown = { frequencyGHz, gas: gasAttenuation({ frequencyGHz }) };
  return gasKnown.gas;
}

/** Share of the frame of one direction between two ends: the end nearer the feed sets it. */
export function frameShareOf(direction: TapeQuestion["direction"], from: LinkEnd, to: LinkEnd): number {
  const head = direction === "aToB" ? from : to;
  return frameShare(head.model, direction === "aToB" ? "down" : "up", head.radio.downShare ?? null);
}

/** Loss of the wall or glass in front of an end's antenna, dB. */
export function wallDb(end: LinkEnd, frequencyGHz: number): number {
  if (end.behind === "none") return 0;
  return buildingEntryLossDb({ frequencyGHz: Math.min(100, frequencyGHz), construction: end.behind });
}

/** What an end loses off its boresight, dB; 0 where that is not worth a line. */
function offBoresightDb({ antenna, radio }: LinkEnd, { azimuthOffDeg, elevationOffDeg }: Pointing): number {
  const lossDb = patternLossDb(antenna, radio.polarization, azimuthOffDeg, elevationOffDeg);
  return lossDb < LEAST_OFF_DB ? 0 : lossDb;
}

/**
 * The link budget of one direction. Level, noise and sensitivity are compared chain by chain; caps count all chains together.
 * The level is that of fair weather; rain stands below it and eats into the margin.
 */
export function tapeOf(question: TapeQuestion): Tape {
  const { direction, plan, kind, from, to, fromPointing, toPointing, path, heard, learnedNoise, isMismatched } =
    question;
  const { frequencyMHz, widthMHz, distanceKm } = path;
  const frequencyGHz = frequencyMHz / 1000;
  const fromGainDbi = peakGainDbi(from.antenna, frequencyMHz, from.radio.polarization);
  const toGainDbi = peakGainDbi(to.antenna, frequencyMHz, to.radio.polarization);
  const eirpDbm = from.radio.txPowerDbm - from.radio.cableLossDb + fromGainDbi;
  const { mechanicalTiltDownDeg } = fromPointing;
  const { limit, closed } = capsFor(plan, from, ruleUse(kind), { frequencyMHz, mechanicalTiltDownDeg });
  const overCapDb = Math.max(
    0,
    limit.eirpCapDbm === null ? 0 : eirpDbm - limit.eirpCapDbm,
    limit.conductedCapDbm === null ? 0 : from.radio.txPowerDbm - limit.conductedCapDbm,
  );
  const fromOffDb = offBoresightDb(from, fromPointing);
  const toOffDb = offBoresightDb(to, toPointing);
  const beamDb = beamTowardDb(to, toPointing);
  const gasDb = (path.oxygenDbPerKm + path.vapourDbPerKm) * distanceKm;
  const fromWallDb = wallDb(from, frequencyGHz);
  const toWallDb = wallDb(to, frequencyGHz);
  const crossedDb = polarizationLossDb(from, to);
  const fullLevelDbm =
    eirpDbm -
    fromOffDb -
    path.freeSpaceDb -
    gasDb -
    path.diffractionDb -
    path.trees.lossDb -
    fromWallDb -
    toWallDb -
    crossedDb +
    toGainDbi -
    toOffDb +
    beamDb -
    to.radio.cableLossDb +
    (path.learned?.db ?? 0);

  const splitDb = chainSplitDb(from, to);
  const fullChainDbm = fullLevelDbm - splitDb;
  const overloadDb = Math.max(0, fullChainDbm - to.model.overloadDbm);
  const thermalDbm = thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: to.model.noiseFigureDb });
  const noise = noiseRise(to, thermalDbm, toPointing.azimuthDeg, path, heard, learnedNoise);
  const noiseDbm = thermalDbm + noise.riseDb;
  // Fast modulations make the transmitter back off: take the fastest that still holds after its own back-off,
  // never counting a power already set below that.
  const ladder = commonModulations(from.model, to.model);
  let modulation: Modulation | null = null;
  let backoffDb = 0;
  for (const candidate of isMismatched || overloadDb > 0 ? [] : ladder) {
    const backoff = Math.max(0, from.radio.txPowerDbm - (from.model.powerMaxDbm - candidate.backoffDb));
    if (fullChainDbm - backoff - noiseDbm < candidate.snrDb) continue;
    modulation = candidate;
    backoffDb = backoff;
  }
  const chains = commonChains(from, to);
  const overAirMbps = modulation
    ? airRateMbps({
        bitsPerHz: modulation.bitsPerHz,
        widthMHz,
        chains,
        efficiency: Math.min(from.model.efficiency, to.model.efficiency),
        share: frameShareOf(direction, from, to),
      })
    : 0;
  const rateMbps = Math.min(overAirMbps, from.model.portMbps ?? Infinity, to.model.portMbps ?? Infinity);
  const sensitivity = sensitivityDbm(to.model, widthMHz, ladder[0]) + noise.riseDb;
  const fadeMarginDb = fullChainDbm - sensitivity;
  const rainDb =
    frequencyGHz > RAIN_COUNTS_FROM_GHZ
      ? rainAttenuationDb({
          frequencyGHz: Math.min(100, frequencyGHz),
          polarization: linearOf(from.radio.polarization),
          distanceKm,
          rainRate001MmPerH: path.rainRate001MmPerH,
          percentOfTime: rainPercent(plan),
        })
      : 0;
  return {
    question,
    fromGainDbi,
    toGainDbi,
    fromOffDb,
    toOffDb,
    beamDb,
    gasDb,
    fromWallDb,
    toWallDb,
    crossedDb,
    eirpDbm,
    limit,
    closed,
    overCapDb,
    sentDbm: from.radio.txPowerDbm - backoffDb,
    backoffDb,
    totalLevelDbm: fullLevelDbm - backoffDb,
    chainLevelDbm: fullChainDbm - backoffDb,
    splitDb,
    overloadDb,
    noiseDbm,
    noise,
    snrDb: fullChainDbm - backoffDb - noiseDbm,
    modulation,
    chains,
    rateMbps,
    airRateMbps: rateMbps < overAirMbps ? overAirMbps : null,
    sensitivityDbm: sensitivity,
    fadeMarginDb,
    rainDb,
    marginLeftDb: fadeMarginDb - rainDb,
  };
}
