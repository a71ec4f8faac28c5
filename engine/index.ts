export { onChange } from "./events";
export { askOf, forgetPlans, planContext, type Loaded, type PlanContext } from "./plans";
export { KIT_TEXTS } from "./thread/files";
export { stopEngine, warmEngine } from "./thread";
export type { Answer, QuestionName, SharedPlan } from "./thread/questions";
