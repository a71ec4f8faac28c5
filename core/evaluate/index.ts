export type { Answers } from "./answers";
export { evaluate, evaluateAfter, evaluateGently, evaluateOwn, type Evaluation, type Pace } from "./evaluation";
export { findingsInHand } from "./findingsInHand";
export { planFaults } from "./grouped";
export { finished } from "./finished";
export { answersInHand, answersKept, heardBefore, reachOf, stepsInHand, type Reach } from "./inHand";
export { reviewed, reviewPlan, workOut, type Review } from "./review";
