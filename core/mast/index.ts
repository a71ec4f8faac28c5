export { frontsOf, type Front } from "./fronts";
export { couplingOf, MAST_SIDEWAYS_M } from "./coupling";
export { exposureDistanceM } from "./exposure";
export { exposureLimitWPerM2, keepAwayM } from "./keepAway";
export { mastIsolationDb } from "./isolation";
export { ballastKg, mastLoad, momentOverNm, strutsFor } from "./loads";
export { strikesOn, SWING_GAP_M, type Strike } from "./swing";
export { windAreaOf, windLoad } from "./wind";
export { mastPairs, radiosOnMast, radiosOnMasts, respacing, type OnMast } from "./mast";
