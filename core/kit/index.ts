export { needsOfRadio, radiosForAntenna, type Need } from "./needs";
export { antennasFor, isJoined, powerSparingDbm, powerWithinCapDbm, radioModelsFor, withPowerInCap } from "./kit";
