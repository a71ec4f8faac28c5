export { crewSheet, sendingWords, type CrewEnd } from "./crewSheet";
export { combinedLevelDbm, judge, readLevelsDbm, type Cause, type SchoolVerdict, type Verdict } from "./proof";
export { CAUTION_NOTE, CAUTIONS, INSTALL_STEPS, type InstallStep } from "./steps";
