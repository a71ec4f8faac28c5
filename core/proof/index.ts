export { newestMeasurements } from "./newest";
export { combinedLevelDbm, judge, readLevelsDbm, type Cause, type SchoolVerdict, type Verdict } from "./proof";
