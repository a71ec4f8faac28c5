export { pointingLossDb, polarizationLossDb, type Fault, type FaultKind } from "./faults";
export { memoryOf, toldAt, type Memory, type SimulatedLink } from "./link";
export { normalAt, seedOf, uniformAt } from "./noise";
export { weatherAt, type Weather } from "./weather";
export { liveNetwork, type LiveFault } from "./live";
export {
  standInModel,
  standInSettings,
  startStandIns,
  STAND_IN_COMMUNITY,
  type StandInDevice,
  type StandIns,
} from "./standIns";
export { askedHours, simulateHours, weatherHours } from "./year";
