import { firstSideLobe } from "../antenna";
import type { LinkEnd, LinkState, Measurement, Plan } from "../plan";
import { commonChains } from "../link";
import { thermalNoiseDbm } from "../propagation";
import { figure, signedFigure } from "../words";

/** A way in which a reading may have come about, with the figures that speak for it. */
export interface Cause {
  kind:
    | "sideLobe"
    | "deadChain"
    | "swappedPolarization"
    | "foliage"
    | "noise"
    | "oneWay"
    | "tooStrong"
    | "slowDespiteLevel";
  title: string;
  reason: string;
  next: string;
}

export interface SchoolVerdict {
  passed: boolean;
  text: string;
}

export interface Verdict {
  state: Exclude<LinkState, "planned">;
  /** What does not pass, in one line; empty when all does. */
  summary: string;
  /** Absolute floor: both ends at least as strong as the plan's figure, all chains together. */
  floor: SchoolVerdict;
  /** Deviation: both ends within so many dB of the prediction, all chains together. */
  deviation: SchoolVerdict;
  /** Whether both directions deviate alike: what stands in the way hurts both. */
  symmetry: SchoolVerdict;
  /** Throughput against the promise, and noise against the plan; null where not measured. */
  throughput: SchoolVerdict | null;
  noise: SchoolVerdict | null;
  /** Throughput against what the customer asks for: twice of it is comfortable. It is told and decides nothing; null at a bridge or where not measured. */
  need: SchoolVerdict | null;
  /** The reading farthest from its prediction, signed, dB. */
  worstDeviationDb: number;
  causes: Cause[];
}

/** Everything that a verdict stands on, by the name that people read; what was not measured is left out. */
export function schoolsOf({ floor, deviation, symmetry, throughput, noise, need }: Verdict): [string, SchoolVerdict][] {
  const schools = [
    ["Absolute floor", floor],
    ["Deviation from prediction", deviation],
    ["Both directions alike", symmetry],
    ["Throughput", throughput],
    ["Noise", noise],
    ["Need", need],
  ] as const;
  return schools.flatMap(([name, found]): [string, SchoolVerdict][] => (found ? [[name, found]] : []));
}

/** The chains that were read at one end, dBm, first chain first. */
export function chainLevels(m: Measurement, side: "a" | "b"): number[] {
  const all =
    side === "a"
      ? [m.levelA0Dbm, m.levelA1Dbm, m.levelA2Dbm, m.levelA3Dbm]
      : [m.levelB0Dbm, m.levelB1Dbm, m.levelB2Dbm, m.levelB3Dbm];
  return all.filter((dbm) => dbm !== null);
}

/** Power sum of an end's chains, dBm: predictions are kept for all chains together. Chains that were not read are taken to be like the mean of those that were. */
export function combinedLevelDbm(readDbm: readonly number[], chains = readDbm.length): number {
  const milliwatts = readDbm.reduce((sum, dbm) => sum + 10 ** (dbm / 10), 0);
  return 10 * Math.log10((milliwatts * Math.max(chains, readDbm.length)) / readDbm.length);
}

/** The levels of both ends, all chains together: as many chains as carry streams of their own. */
export function readLevelsDbm(a: LinkEnd, b: LinkEnd, m: Measurement): { aDbm: number; bDbm: number } {
  const chains = commonChains(a, b);
  return {
    aDbm: combinedLevelDbm(chainLevels(m, "a"), chains),
    bDbm: combinedLevelDbm(chainLevels(m, "b"), chains),
  };
}

/** Chains that differ by this much point to a fault on one of them. */
const DEAD_CHAIN_DB = 12;
const SIDE_LOBE_TOLERANCE_DB = 4;

const signedDb = (value: number) => `${signedFigure(value)} dB`;

/** Directions that deviate from their predictions by more than this apart are not hurt by the same thing, dB. */
const ASYMMETRY_DB = 6;
/** A throughput under this share of the promise is far under it: frames in the air vary by less. */
const PROMISED_SHARE = 0.6;
/** How far measured noise may stand above the planned floor before it is called, dB. */
const NOISE_TOLERANCE_DB = 6;

/**
 * Judges a reading by both schools of acceptance and by everything else that was measured. Proven passes all of it. A reading
 * that passes one school alone is doubtful, since a strong link may still stand on a side lobe and a weak one may be just what
 * was predicted; so is one that passes both but is slow, noisy, lopsided or short of a chain. Neither school: failed.
 */
export function judge(plan: Plan, a: LinkEnd, b: LinkEnd, measurement: Measurement): Verdict {
  const { aDbm, bDbm } = readLevelsDbm(a, b, measurement);
  const deviationA = aDbm - measurement.expectedADbm;
  const deviationB = bDbm - measurement.expectedBDbm;
  const isWorstA = Math.abs(deviationA) >= Math.abs(deviationB);
  const worst = isWorstA ? deviationA : deviationB;
  const weakest = Math.min(aDbm, bDbm);
  const apartDb = Math.abs(deviationA - deviationB);

  const floor = {
    passed: weakest >= plan.proofFloorDbm,
    text: `weaker end ${figure(weakest)} dBm, all chains together; floor ${figure(plan.proofFloorDbm)} dBm`,
  };
  const deviation = {
    passed: Math.abs(worst) <= plan.proofDeviationDb,
    text: `farthest from prediction ${signedDb(worst)} at ${(isWorstA ? a : b).placeName}, band ±${plan.proofDeviationDb} dB`,
  };
  const symmetry = {
    passed: apartDb <= ASYMMETRY_DB,
    text: `${signedDb(deviationA)} at ${a.placeName}, ${signedDb(deviationB)} at ${b.placeName}: ${apartDb.toFixed(1)} dB apart, up to ${ASYMMETRY_DB} is usual`,
  };
  const throughput = throughputVerdict(a, b, measurement);
  const noise = noiseVerdict(a, b, measurement);
  const deadChains = deadChainCauses(a, b, measurement);
  // One chain can carry a link into the band alone; it is not proven while the other is down.
  const isElseFine =
    deadChains.length === 0 && symmetry.passed && throughput?.passed !== false && noise?.passed !== false;
  const state =
    floor.passed && deviation.passed && isElseFine
      ? "proven"
      : floor.passed || deviation.passed
        ? "doubtful"
        : "failed";
  const causes =
    deadChains.length > 0
      ? deadChains
      : symmetry.passed
        ? levelCauses(a, b, deviationA, deviationB)
        : oneWayCauses(a, b, deviationA, deviationB);
  const noisy = noiseCauses(a, b, measurement);
  const failing = [
    ...(deviation.passed ? [] : [`measured ${signedDb(worst)} against the prediction`]),
    ...(floor.passed
      ? []
      : [`${figure(weakest)} dBm at the weaker end, under the floor of ${figure(plan.proofFloorDbm)}`]),
    ...(deadChains.length > 0 ? ["a chain is down"] : []),
    ...(symmetry.passed ? [] : [`the two directions are ${apartDb.toFixed(0)} dB apart`]),
    ...(throughput && !throughput.passed ? [throughput.text] : []),
    ...(noise && !noise.passed ? [noise.text] : []),
  ];
  const isSlowAlone = throughput?.passed === false && causes.length + noisy.length === 0;
  return {
    state,
    summary: state === "proven" ? "" : failing.join("; "),
    floor,
    deviation,
    symmetry,
    throughput,
    noise,
    need: needVerdict(b, measurement),
    worstDeviationDb: worst,
    causes:
      state === "proven" ? [] : [...causes, ...noisy, ...(isSlowAlone ? [slowDespiteLevel(throughput.text)] : [])],
  };
}

const slowDespiteLevel = (text: string): Cause => ({
  kind: "slowDespiteLevel",
  title: "Slow although the level is right",
  reason: text,
  next: "Read the modulation and the noise at both ends, look for a cable that has fallen back to 100 Mbit/s, and test again with nobody else on the sector.",
});

const mbps = (value: number) => (value < 10 ? value.toFixed(1) : value.toFixed(0));

/** Throughput against what was promised when the reading was taken; null where either is not known. */
function throughputVerdict(a: LinkEnd, b: LinkEnd, m: Measurement): SchoolVerdict | null {
  const directions = (
    [
      [m.downMbps, m.expectedDownMbps, b.placeName],
      [m.upMbps, m.expectedUpMbps, a.placeName],
    ] as const
  ).flatMap(([measured, promised, to]) => (measured === null || !promised ? [] : [{ measured, promised, to }]));
  if (directions.length === 0) return null;
  const worst = directions.reduce((least, one) =>
    one.measured / one.promised < least.measured / least.promised ? one : least,
  );
  return {
    passed: worst.measured >= PROMISED_SHARE * worst.promised,
    text: `${mbps(worst.measured)} of ${mbps(worst.promised)} Mbit/s promised toward ${worst.to}`,
  };
}

/** So many times what is asked for is comfortable. */
const COMFORTABLE = 2;

/** Throughput against what the customer at the far end asks for, in the direction that has less of it. */
function needVerdict(b: LinkEnd, m: Measurement): SchoolVerdict | null {
  if (!b.demand) return null;
  const directions = (
    [
      [m.downMbps, b.demand.downMbps, "toward"],
      [m.upMbps, b.demand.upMbps, "from"],
    ] as const
  ).flatMap(([measured, asked, way]) => (measured === null || asked <= 0 ? [] : [{ measured, asked, way }]));
  if (directions.length === 0) return null;
  const worst = directions.reduce((least, one) =>
    one.measured / one.asked < least.measured / least.asked ? one : least,
  );
  const times = worst.measured / worst.asked;
  return {
    passed: times >= COMFORTABLE,
    text: `${mbps(worst.measured)} Mbit/s ${worst.way} ${b.placeName} is ${times.toFixed(1)} times the ${mbps(worst.asked)} asked for; ${COMFORTABLE} times is comfortable`,
  };
}

/** Noise measured at either end with the floor that was planned on one chain there. */
function noiseReadings(a: LinkEnd, b: LinkEnd, m: Measurement): { end: LinkEnd; aboveDb: number }[] {
  return (
    [
      [a, m.noiseADbm, m.expectedNoiseADbm],
      [b, m.noiseBDbm, m.expectedNoiseBDbm],
    ] as const
  ).flatMap(([end, noise, expected]) => {
    if (noise === null) return [];
    const planned =
      expected ??
      thermalNoiseDbm({ bandwidthMHz: a.radio.widthMHz, noiseFigureDb: end.model.noiseFigureDb }) +
        end.radio.interferenceDb;
    return [{ end, aboveDb: noise - planned }];
  });
}

function noiseVerdict(a: LinkEnd, b: LinkEnd, m: Measurement): SchoolVerdict | null {
  const readings = noiseReadings(a, b, m);
  if (readings.length === 0) return null;
  const worst = readings.reduce((most, one) => (one.aboveDb > most.aboveDb ? one : most));
  return {
    passed: worst.aboveDb <= NOISE_TOLERANCE_DB,
    text: `noise ${signedDb(worst.aboveDb)} against the planned floor at ${worst.end.placeName}`,
  };
}

/** One direction as it should be and the other not: nothing on the way does that. */
function oneWayCauses(a: LinkEnd, b: LinkEnd, deviationA: number, deviationB: number): Cause[] {
  const [low, high, receiver, sender] =
    deviationA < deviationB ? [deviationA, deviationB, a, b] : [deviationB, deviationA, b, a];
  if (Math.abs(low) < Math.abs(high) && high > 0)
    return [
      {
        kind: "tooStrong",
        title: "One direction is stronger than planned",
        reason: `${signedDb(high)} at ${sender.placeName}, ${signedDb(low)} at ${receiver.placeName}`,
        next: `Read the power that ${receiver.radio.name} is really set to, and hold it against the cap.`,
      },
    ];
  return [
    {
      kind: "oneWay",
      title: "One direction only",
      reason: `${signedDb(low)} at ${receiver.placeName} while ${sender.placeName} reads ${signedDb(high)}: trees, aim and distance hurt both directions alike`,
      next: `Read the power that ${sender.radio.name} at ${sender.placeName} is really set to, then its transmitter's port and jumper, then the receiver at ${receiver.placeName}.`,
    },
  ];
}

const CHAIN_WORDS = ["first", "second", "third", "fourth"] as const;

function deadChainCauses(a: LinkEnd, b: LinkEnd, m: Measurement): Cause[] {
  const causes: Cause[] = [];
  for (const [end, levels] of [
    [a, chainLevels(m, "a")],
    [b, chainLevels(m, "b")],
  ] as const) {
    const [weakest, strongest] = [Math.min(...levels), Math.max(...levels)];
    if (strongest - weakest < DEAD_CHAIN_DB) continue;
    const weak = CHAIN_WORDS[levels.indexOf(weakest)]!;
    const other = levels.length > 2 ? "strongest" : "other";
    causes.push({
      kind: "deadChain",
      title: "One chain is down",
      reason: `at ${end.placeName} the ${weak} chain reads ${(strongest - weakest).toFixed(1)} dB under the ${other}`,
      next: "Check that chain's connector, jumper and port at both ends.",
    });
  }
  return causes;
}

function levelCauses(a: LinkEnd, b: LinkEnd, deviationA: number, deviationB: number): Cause[] {
  const causes: Cause[] = [];
  const low = Math.min(deviationA, deviationB);
  const alike = Math.abs(deviationA - deviationB) <= 3;
  if (low > -2) return causes;

  const crossed = Math.min(a.antenna.crossPolarDb, b.antenna.crossPolarDb);
  if (alike && Math.abs(-low - crossed) <= 5 && low < -14) {
    causes.push({
      kind: "swappedPolarization",
      title: "Polarization swapped at one end",
      reason: `${signedDb(low)} at both ends, near the antennas' ${crossed.toFixed(0)} dB isolation`,
      next: "Compare the marks on both feeds; turn one end by 90° or swap its two jumpers.",
    });
  }
  for (const end of [a, b]) {
    for (const [plane, cut] of [
      ["azimuth", end.antenna.azimuthCuts.V],
      ["elevation", end.antenna.elevationCuts.V],
    ] as const) {
      const lobe = firstSideLobe(cut);
      if (!lobe || !alike || Math.abs(-low - lobe.belowDb) > SIDE_LOBE_TOLERANCE_DB) continue;
      if (causes.some((cause) => cause.kind === "sideLobe")) continue;
      causes.push({
        kind: "sideLobe",
        title: "On a side lobe",
        reason: `${signedDb(low)}; the first side lobe of ${end.antenna.model} lies ${lobe.belowDb.toFixed(0)} dB down, ${lobe.offsetDeg.toFixed(1)}° off in ${plane}`,
        next: `Sweep azimuth and elevation at both ends past ±${Math.ceil(lobe.offsetDeg * 1.5)}°, through the peak and beyond, then lock and read again.`,
      });
    }
  }
  if (low <= -3) {
    causes.push({
      kind: "foliage",
      title: "Trees, or an edge in the way",
      reason: `${signedDb(low)} at both ends; nothing of that size was planned for`,
      next: "Look along the path from the antenna; if trees stand in it, set their depth on the link and predict again.",
    });
  }
  return causes;
}

function noiseCauses(a: LinkEnd, b: LinkEnd, m: Measurement): Cause[] {
  return noiseReadings(a, b, m)
    .filter(({ aboveDb }) => aboveDb > NOISE_TOLERANCE_DB)
    .map(({ end, aboveDb }) => ({
      kind: "noise",
      title: "More noise than planned",
      reason: `${aboveDb.toFixed(1)} dB above the planned floor at ${end.placeName}`,
      next: "Scan, then change channel: the far end first, or it is lost.",
    }));
}
