export { densityCells, type DensityCell } from "./density";
export { changedFields, placeVerdicts, type PlaceVerdict, type ReadPlace, type Verdict } from "./places";
