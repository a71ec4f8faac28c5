import { patternLossDb, peakGainDbi, type Polarization } from "../antenna";
import type { Pointing } from "../aiming";
import type { LinkEnd, Plan } from "../plan";
import {
  buildingEntryLossDb,
  freeSpaceLossDb,
  gasAttenuation,
  rainAttenuationDb,
  thermalNoiseDbm,
  type LinearPolarization,
} from "../propagation";
import { netRateMbps, sensitivityDbm, type Modulation } from "../radio";
import { eirpLimit, ruleSetOf, type EirpLimit } from "../regulation";
import { noiseRise } from "./noise";
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
}

/** The link budget of one direction in figures; `tapeLines` prints it. */
export interface Tape {
  question: TapeQuestion;
  fromGainDbi: number;
  toGainDbi: number;
  /** Loss off either boresight, dB ≥ 0. */
  fromOffDb: number;
  toOffDb: number;
  gasDb: number;
  fromWallDb: number;
  toWallDb: number;
  crossedDb: number;
  eirpDbm: number;
  limit: EirpLimit;
  /** Decibels by which the transmitter must be turned down; 0 within the caps. */
  overCapDb: number;
  /** Power the radio actually sends at the chosen modulation, and how far that is under what it is set to. */
  sentDbm: number;
  backoffDb: number;
  levelDbm: number;
  noiseDbm: number;
  /** How far interference lifts the noise above thermal, and where that is known from. */
  noiseRiseDb: number;
  noiseReason: string;
  snrDb: number;
  modulation: Modulation | null;
  chains: number;
  rateMbps: number;
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

/**
 * Loss in dB where the two ends differ in polarization. Crossed linear ends keep what the weaker isolation leaks;
 * a dual end facing a single one, or H/V facing ±45°, lands half its power on each chain.
 */
export function polarizationLossDb(a: LinkEnd, b: LinkEnd): number {
  const pa = a.radio.polarization;
  const pb = b.radio.polarization;
  if (pa === pb) return 0;
  const linear = (p: Polarization) => p === "H" || p === "V";
  return linear(pa) && linear(pb) ? Math.min(a.antenna.crossPolarDb, b.antenna.crossPolarDb) : 3;
}

/** Chains that both ends can use: one when either stands on a single polarization. */
export function commonChains(a: LinkEnd, b: LinkEnd): number {
  return Math.min(chainsOf(a), chainsOf(b));
}

function chainsOf({ radio, model }: LinkEnd): number {
  return radio.polarization === "H" || radio.polarization === "V" ? 1 : model.chains;
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
  };
}

let gasKnown = { frequencyGHz: NaN, gas: { oxygenDbPerKm: 0, vapourDbPerKm: 0 } };
/** The standard atmosphere at one frequency; a plan asks for the same few again and again. */
function standardGas(frequencyGHz: number): { oxygenDbPerKm: number; vapourDbPerKm: number } {
  if (gasKnown.frequencyGHz !== frequencyGHz) gasKnown = { frequencyGHz, gas: gasAttenuation({ frequencyGHz }) };
  return gasKnown.gas;
}

function wallDb(end: LinkEnd, frequencyGHz: number): number {
  if (end.behind === "none") return 0;
  return buildingEntryLossDb({ frequencyGHz: Math.min(100, frequencyGHz), construction: end.behind });
}

/** The link budget of one direction. The level is that of fair weather; rain stands below it and eats into the margin. */
export function tapeOf(question: TapeQuestion): Tape {
  const { direction, plan, kind, from, to, fromPointing, toPointing, path } = question;
  const { frequencyMHz, widthMHz, distanceKm } = path;
  const frequencyGHz = frequencyMHz / 1000;
  const fromGainDbi = peakGainDbi(from.antenna, frequencyMHz, from.radio.polarization);
  const toGainDbi = peakGainDbi(to.antenna, frequencyMHz, to.radio.polarization);
  const eirpDbm = from.radio.txPowerDbm - from.radio.cableLossDb + fromGainDbi;
  const limit = eirpLimit({
    ruleSet: ruleSetOf(plan),
    frequencyMHz,
    widthMHz,
    use: kind === "bridge" ? "ptp" : "ptmp",
    antennaGainDbi: fromGainDbi,
    elevationDeg: -fromPointing.mechanicalTiltDownDeg,
  });
  const overCapDb = Math.max(
    0,
    limit.eirpCapDbm === null ? 0 : eirpDbm - limit.eirpCapDbm,
    limit.conductedCapDbm === null ? 0 : from.radio.txPowerDbm - limit.conductedCapDbm,
  );
  const off = (end: LinkEnd, pointing: Pointing) => {
    const lossDb = patternLossDb(end.antenna, end.radio.polarization, pointing.azimuthOffDeg, pointing.elevationOffDeg);
    return lossDb < LEAST_OFF_DB ? 0 : lossDb;
  };
  const fromOffDb = off(from, fromPointing);
  const toOffDb = off(to, toPointing);
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
    toOffDb -
    to.radio.cableLossDb;

  const thermalDbm = thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: to.model.noiseFigureDb });
  const heard = noiseRise(to, thermalDbm, toPointing.azimuthDeg, path);
  const noiseDbm = thermalDbm + heard.riseDb;
  // Fast modulations make the transmitter back off: take the fastest that still holds after its own back-off,
  // never counting a power already set below that.
  let modulation: Modulation | null = null;
  let backoffDb = 0;
  for (const candidate of to.model.modulations) {
    const backoff = Math.max(0, from.radio.txPowerDbm - (from.model.powerMaxDbm - candidate.backoffDb));
    if (fullLevelDbm - backoff - noiseDbm < candidate.snrDb) continue;
    modulation = candidate;
    backoffDb = backoff;
  }
  const levelDbm = fullLevelDbm - backoffDb;
  const chains = commonChains(from, to);
  const sensitivity = sensitivityDbm(to.model, widthMHz) + heard.riseDb;
  const fadeMarginDb = fullLevelDbm - sensitivity;
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
    gasDb,
    fromWallDb,
    toWallDb,
    crossedDb,
    eirpDbm,
    limit,
    overCapDb,
    sentDbm: from.radio.txPowerDbm - backoffDb,
    backoffDb,
    levelDbm,
    noiseDbm,
    noiseRiseDb: heard.riseDb,
    noiseReason: heard.reason,
    snrDb: levelDbm - noiseDbm,
    modulation,
    chains,
    rateMbps: netRateMbps({
      radio: to.model,
      modulation,
      widthMHz,
      chains,
      direction: direction === "aToB" ? "down" : "up",
    }),
    sensitivityDbm: sensitivity,
    fadeMarginDb,
    rainDb,
    marginLeftDb: fadeMarginDb - rainDb,
  };
}
