export { evaluate, evaluateAfter, evaluateGently, evaluateOwn, type Evaluation, type Pace } from "./evaluation";
export { findingsInHand } from "./inHand";
export { reviewed, reviewPlan, workOut, type Review } from "./review";
