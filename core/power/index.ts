export { ARRESTERS, powerChain, type PowerChain } from "./chain";
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
} from "./inputs";
export { poeDrop } from "./poe";
export { railsOf } from "./rails";
export { usualClearness } from "./clearness";
export { siteLoadW, solarYear, type SolarYear } from "./site";
export { solarBudget } from "./solar";
export { monthlySunHours, winterTiltDeg } from "./sun";
