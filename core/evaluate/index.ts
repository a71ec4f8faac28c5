export { evaluate, evaluateAfter, evaluateGently, type Evaluation, type Pace } from "./evaluation";
export { findingsInHand } from "./inHand";
export { reviewed, reviewPlan, workOut, type Review } from "./review";
