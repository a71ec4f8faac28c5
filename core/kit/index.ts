export { costOf } from "./cost";
export { antennasFor, powerSparingDbm, powerWithinCapDbm, radioModelsFor, withPowerInCap } from "./kit";
