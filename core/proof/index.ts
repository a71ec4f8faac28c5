export { promisedBy, promisedIn, type Promised } from "./promised";
export { newestMeasurements } from "./newest";
export { criteriaChanged, linkStates, paperCriteria, standingOf, stateBy, type Criterion } from "./standing";
export { chainLevels, combinedLevelDbm, judge, readLevelsDbm, schoolsOf, type Verdict } from "./proof";
