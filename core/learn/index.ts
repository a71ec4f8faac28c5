export {
  areaAt,
  areaOfTerm,
  noiseTerm,
  noiseTermsOf,
  learnedSchema,
  MOST_SCALED_DB,
  treesTerms,
  priorSd,
  termName,
  termsOf,
  type Learned,
  type LearnedCase,
  type NoiseCase,
  type Taught,
} from "./cases";
export {
  correctionOf,
  covarianceOf,
  fitNoise,
  fitReadings,
  noiseCorrectionOf,
  type Correction,
  type LearnedReading,
  type NoiseReading,
} from "./fit";
export { mostSettling, normalShare, oddsOf, spreadOf, type OddsCase } from "./odds";
