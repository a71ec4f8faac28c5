export { placeEdits } from "./importPlaces";
export { planContext, type PlanContext } from "./planContext";
