import { firstSideLobe } from "../antenna";
import type { LinkEnd, LinkState, Measurement, Plan } from "../plan";
import { thermalNoiseDbm } from "../propagation";

/** A way in which a reading may have come about, with the figures that speak for it. */
export interface Cause {
  kind: "sideLobe" | "deadChain" | "swappedPolarization" | "foliage" | "noise";
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
  /** Absolute floor: both ends at least as strong as the plan's figure. */
  floor: SchoolVerdict;
  /** Deviation: both ends within so many dB of the prediction. */
  deviation: SchoolVerdict;
  /** The reading farthest from its prediction, signed, dB. */
  worstDeviationDb: number;
  causes: Cause[];
}

/** Power sum of an end's chains, dBm. Predictions speak of the whole power, so readings are summed before comparing. */
export function combinedLevelDbm(chain0Dbm: number, chain1Dbm: number | null): number {
  if (chain1Dbm === null) return chain0Dbm;
  return 10 * Math.log10(10 ** (chain0Dbm / 10) + 10 ** (chain1Dbm / 10));
}

/** Chains that differ by this much point to a fault on one of them. */
const DEAD_CHAIN_DB = 12;
const SIDE_LOBE_TOLERANCE_DB = 4;

/** With the minus sign that is printed. */
const printed = (value: number) => String(Math.round(value * 10) / 10).replace("-", "−");
const signed = (value: number) => `${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(1)} dB`;

/**
 * Judges a reading by both schools of acceptance. Proven passes both; a reading that passes one alone is doubtful, since
 * a strong link may still stand on a side lobe and a weak one may be just what was predicted; neither: failed.
 */
export function judge(plan: Plan, a: LinkEnd, b: LinkEnd, measurement: Measurement): Verdict {
  const levelADbm = combinedLevelDbm(measurement.levelA0Dbm, measurement.levelA1Dbm);
  const levelBDbm = combinedLevelDbm(measurement.levelB0Dbm, measurement.levelB1Dbm);
  const deviationA = levelADbm - measurement.expectedADbm;
  const deviationB = levelBDbm - measurement.expectedBDbm;
  const worst = Math.abs(deviationA) >= Math.abs(deviationB) ? deviationA : deviationB;
  const weakest = Math.min(levelADbm, levelBDbm);

  const floor = {
    passed: weakest >= plan.proofFloorDbm,
    text: `weaker end ${printed(weakest)} dBm, floor ${printed(plan.proofFloorDbm)} dBm`,
  };
  const deviation = {
    passed: Math.abs(worst) <= plan.proofDeviationDb,
    text: `farthest from prediction ${signed(worst)}, band ±${plan.proofDeviationDb} dB`,
  };
  const deadChains = deadChainCauses(a, b, measurement);
  // One chain can carry a link into the band alone; it is not proven while the other is down.
  const state =
    floor.passed && deviation.passed && deadChains.length === 0
      ? "proven"
      : floor.passed || deviation.passed
        ? "doubtful"
        : "failed";
  const causes = deadChains.length > 0 ? deadChains : levelCauses(a, b, deviationA, deviationB);
  return {
    state,
    floor,
    deviation,
    worstDeviationDb: worst,
    causes: state === "proven" ? [] : [...causes, ...noiseCauses(a, b, measurement)],
  };
}

function deadChainCauses(a: LinkEnd, b: LinkEnd, m: Measurement): Cause[] {
  const causes: Cause[] = [];
  for (const [end, first, second] of [
    [a, m.levelA0Dbm, m.levelA1Dbm],
    [b, m.levelB0Dbm, m.levelB1Dbm],
  ] as const) {
    if (second === null || Math.abs(first - second) < DEAD_CHAIN_DB) continue;
    const weak = first < second ? "first" : "second";
    causes.push({
      kind: "deadChain",
      title: "One chain is down",
      reason: `at ${end.placeName} the ${weak} chain reads ${Math.abs(first - second).toFixed(1)} dB under the other`,
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
      reason: `${signed(low)} at both ends, near the antennas' ${crossed.toFixed(0)} dB isolation`,
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
        reason: `${signed(low)}; the first side lobe of ${end.antenna.model} lies ${lobe.belowDb.toFixed(0)} dB down, ${lobe.offsetDeg.toFixed(1)}° off in ${plane}`,
        next: `Sweep azimuth and elevation at both ends past ±${Math.ceil(lobe.offsetDeg * 1.5)}°, through the peak and beyond, then lock and read again.`,
      });
    }
  }
  if (low <= -3) {
    causes.push({
      kind: "foliage",
      title: "Trees, or an edge in the way",
      reason: `${signed(low)} with both ends ${alike ? "alike" : "apart"}; nothing of that size was planned for`,
      next: "Look along the path from the antenna; if trees stand in it, set their depth on the link and predict again.",
    });
  }
  return causes;
}

/** How far measured noise may stand above the planned floor before it is called, dB. */
const NOISE_TOLERANCE_DB = 6;

function noiseCauses(a: LinkEnd, b: LinkEnd, m: Measurement): Cause[] {
  const causes: Cause[] = [];
  for (const [end, noise] of [
    [a, m.noiseADbm],
    [b, m.noiseBDbm],
  ] as const) {
    if (noise === null) continue;
    const planned =
      thermalNoiseDbm({ bandwidthMHz: a.radio.widthMHz, noiseFigureDb: end.model.noiseFigureDb }) +
      end.radio.interferenceDb;
    if (noise - planned <= NOISE_TOLERANCE_DB) continue;
    causes.push({
      kind: "noise",
      title: "More noise than planned",
      reason: `${(noise - planned).toFixed(1)} dB above the planned floor at ${end.placeName}`,
      next: "Scan, then change channel: the far end first, or it is lost.",
    });
  }
  return causes;
}
