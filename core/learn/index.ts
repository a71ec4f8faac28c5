export {
  areaAt,
  areaOfTerm,
  learnedSchema,
  MOST_SCALED_DB,
  treesTerm,
  priorSd,
  termName,
  termsOf,
  type Learned,
  type LearnedCase,
} from "./cases";
export { correctionOf, covarianceOf, fitReadings, type Correction, type Fit, type LearnedReading } from "./fit";
export { mostSettling, normalShare, oddsOf, spreadOf, type OddsCase, type SettlingReading } from "./odds";
