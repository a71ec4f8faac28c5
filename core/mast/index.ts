export { couplingOf, MAST_SIDEWAYS_M } from "./coupling";
export { exposureDistanceM } from "./exposure";
export { mastIsolationDb } from "./isolation";
export { exposureLimitWPerM2, mastLoad, momentOverNm, type AntennaLoad, type MastLoad } from "./loads";
export { windAreaOf, windLoad } from "./wind";
export { mastPairs, radiosOnMast, respacing, type MastPair, type OnMast, type Respacing } from "./mast";
