export { islandSurface } from "./island";
export { DEMO_PLAN_ID } from "./places";
export { demoPlan } from "./plan";
