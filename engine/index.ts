export { onChange } from "./events";
export { contextOf, forgetPlans, planContext, type PlanContext } from "./context";
