export { powerChain, type PowerChain } from "./chain";
export { bears, CABLES, harms, INJECTOR_WORDS, LONGEST_COPPER_M, POWER_RULES, type PowerRule } from "./inputs";
export { poeDrop } from "./poe";
export { BATTERIES, siteLoadW, solarYear, type SolarYear } from "./site";
export { solarBudget } from "./solar";
export { monthlySunHours, USUAL_CLEARNESS, winterTiltDeg } from "./sun";
