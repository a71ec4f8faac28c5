export { crewSheet, sendingWords, type CrewEnd } from "./crewSheet";
export { CAUTION_NOTE, CAUTIONS } from "./cautions";
