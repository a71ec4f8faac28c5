export { climateAt, climateOf, kFactor999, type ClimateDefaults } from "./climate";
