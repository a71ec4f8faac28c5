export { islandSurface, islandPlace } from "./island";
export { DEMO_PLAN_ID } from "./places";
export { demoPlan } from "./plan";
export { largeSibling } from "./large";
export { DEMO_CLOCK_DAY, DEMO_FAULTS } from "./watch";
