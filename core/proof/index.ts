export { promisedBy, promisedIn, type Promised } from "./promised";
export { newestMeasurements } from "./newest";
export {
  combinedLevelDbm,
  judge,
  readLevelsDbm,
  schoolsOf,
  type Cause,
  type SchoolVerdict,
  type Verdict,
} from "./proof";
