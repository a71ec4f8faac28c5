export { cameraLooks, seenBy, type Direction, type Held, type Seen } from "./camera";
export { fitSweep, levelAtPeak, lossOf, mainLobeDeg, type SweepFit, type SweepPoint, type SweptAntenna } from "./sweep";
export { bracketReach, pointingOf, tiltBeyondBracketDeg, tiltDownDeg, type Pointing } from "./aim";
export {
  beginPractice,
  lampsAt,
  LESSONS,
  lock,
  randomAt,
  readMeter,
  scoreOf,
  trueLevelDbm,
  turn,
  type Lesson,
  type Practice,
  type PracticeLink,
} from "./trainer";
