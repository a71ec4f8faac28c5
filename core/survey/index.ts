export { densityCells, type DensityCell } from "./density";
export { placeVerdicts, type PlaceVerdict, type ReadPlace, type Verdict } from "./places";
