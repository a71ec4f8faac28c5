export { bracketReach, pointingOf, tiltBeyondBracketDeg, tiltDownDeg, type Pointing } from "./aim";
