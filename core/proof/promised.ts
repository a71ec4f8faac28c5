import type { PathAnswer } from "../link";
import type { Measurement, Plan } from "../plan";

const round = (value: number) => Math.round(value * 10) / 10;

/**
 * What a reading is held against: level at each end with all chains together, throughput each way, noise on one chain, and the
 * criteria of the moment.
 */
export type Promised = Pick<
  Measurement,
  | "expectedADbm"
  | "expectedBDbm"
  | "expectedDownMbps"
  | "expectedUpMbps"
  | "expectedNoiseADbm"
  | "expectedNoiseBDbm"
  | "floorDbm"
  | "deviationDb"
>;

/** The prediction and the criteria of the moment, to a tenth. */
export const promisedBy = (plan: Pick<Plan, "proofFloorDbm" | "proofDeviationDb">, path: PathAnswer): Promised => ({
  floorDbm: plan.proofFloorDbm,
  deviationDb: plan.proofDeviationDb,
  expectedADbm: round(path.bToA.totalLevelDbm),
  expectedBDbm: round(path.aToB.totalLevelDbm),
  expectedDownMbps: round(path.aToB.rateMbps),
  expectedUpMbps: round(path.bToA.rateMbps),
  expectedNoiseADbm: round(path.bToA.noiseDbm),
  expectedNoiseBDbm: round(path.aToB.noiseDbm),
});

/** What a kept reading was held against: it stays, whatever the plan predicts by now. */
export const promisedIn = (reading: Promised): Promised => ({
  floorDbm: reading.floorDbm,
  deviationDb: reading.deviationDb,
  expectedADbm: reading.expectedADbm,
  expectedBDbm: reading.expectedBDbm,
  expectedDownMbps: reading.expectedDownMbps,
  expectedUpMbps: reading.expectedUpMbps,
  expectedNoiseADbm: reading.expectedNoiseADbm,
  expectedNoiseBDbm: reading.expectedNoiseBDbm,
});
