export { climateAt, climateOf, kFactor999 } from "./climate";
