export { ARRESTERS, powerChain, type FedBy, type PowerChain } from "./chain";
export { fedBySwitch, feedingSwitch, hoursHeld, switchBudget, type SwitchBudget } from "./feeding";
export { jumperLossDb } from "./jumper";
export {
  bears,
  CABLES,
  harms,
  isTurnedAbout,
  INJECTOR_WORDS,
  LONGEST_COPPER_M,
  POWER_RULES,
  switchFeeds,
  type PowerRule,
} from "./inputs";
export { poeDrop } from "./poe";
export { railsOf, type Rail } from "./rails";
export { usualClearness } from "./clearness";
export { BATTERIES, siteLoadW, solarYear, type SolarYear } from "./site";
export { solarBudget } from "./solar";
export { monthlySunHours, winterTiltDeg } from "./sun";
