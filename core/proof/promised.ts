import type { PathAnswer } from "../link";
import type { Measurement } from "../plan";

const round = (value: number) => Math.round(value * 10) / 10;

/** What a reading is held against: level at each end with all chains together, throughput each way, and noise on one chain. */
export type Promised = Pick<
  Measurement,
  "expectedADbm" | "expectedBDbm" | "expectedDownMbps" | "expectedUpMbps" | "expectedNoiseADbm" | "expectedNoiseBDbm"
>;

/** The prediction of the moment, to a tenth. */
export const promisedBy = (path: PathAnswer): Promised => ({
  expectedADbm: round(path.bToA.totalLevelDbm),
  expectedBDbm: round(path.aToB.totalLevelDbm),
  expectedDownMbps: round(path.aToB.rateMbps),
  expectedUpMbps: round(path.bToA.rateMbps),
  expectedNoiseADbm: round(path.bToA.noiseDbm),
  expectedNoiseBDbm: round(path.aToB.noiseDbm),
});

/** What a kept reading was held against: it stays, whatever the plan predicts by now. */
export const promisedIn = (reading: Promised): Promised => ({
  expectedADbm: reading.expectedADbm,
  expectedBDbm: reading.expectedBDbm,
  expectedDownMbps: reading.expectedDownMbps,
  expectedUpMbps: reading.expectedUpMbps,
  expectedNoiseADbm: reading.expectedNoiseADbm,
  expectedNoiseBDbm: reading.expectedNoiseBDbm,
});
