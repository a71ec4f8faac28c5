export { costOf } from "./cost";
export { antennasFor, isJoined, powerSparingDbm, powerWithinCapDbm, radioModelsFor, withPowerInCap } from "./kit";
