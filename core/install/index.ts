export { crewSheet, sendingWords, type CrewEnd } from "./crewSheet";
export { CAUTION_NOTE, CAUTIONS, INSTALL_STEPS, type InstallStep } from "./steps";
