export type { Answers } from "./answers";
export { evaluate, evaluateAfter, evaluateGently, evaluateOwn, type Evaluation, type Pace } from "./evaluation";
export { findingsInHand, findingsInHandSteps } from "./findingsInHand";
export { planFaults } from "./grouped";
export { answersInHand, answersKept, heardBefore, reachOf, stepsInHand } from "./inHand";
export { reviewed, reviewPlan, workOut, type Review } from "./review";
