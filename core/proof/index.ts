export { promisedBy, promisedIn, type Promised } from "./promised";
export { newestMeasurements } from "./newest";
export {
  criteriaChanged,
  linkStates,
  paperCriteria,
  standingOf,
  stateBy,
  type Criterion,
  type LinkStanding,
} from "./standing";
export {
  chainLevels,
  combinedLevelDbm,
  judge,
  readLevelsDbm,
  schoolsOf,
  type Cause,
  type SchoolVerdict,
  type Verdict,
} from "./proof";
