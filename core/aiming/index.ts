export { fitSweep, mainLobeDeg, type SweepFit, type SweepPoint, type SweptAntenna } from "./sweep";
export { bracketReach, pointingOf, tiltBeyondBracketDeg, tiltDownDeg, type Pointing } from "./aim";
