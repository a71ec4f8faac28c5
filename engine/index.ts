export { onChange } from "./events";
export { askOf, forgetPlans, planContext, type Loaded, type PlanContext } from "./plans";
export { stopEngine, warmEngine } from "./thread";
export type { Answer, QuestionName, SharedPlan } from "./thread/questions";
