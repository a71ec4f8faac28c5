export { outlineProperties, readAreas, type AreaOptions, type ReadAreas } from "./areas";
export { readOverlay } from "./overlay";
export { readFeatures } from "./features";
