export { contextOf, forgetPlans, planContext, type PlanContext } from "./context";
