export { couplingOf, MAST_SIDEWAYS_M } from "./coupling";
export { mastIsolationDb } from "./isolation";
export { mastPairs, radiosOnMast, respacing, type MastPair, type OnMast, type Respacing } from "./mast";
