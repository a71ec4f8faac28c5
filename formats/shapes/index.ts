export { outlineProperties, readAreas, type AreaOptions } from "./areas";
export { readOverlay } from "./overlay";
export { readFeatures } from "./features";
