export { foldPlan } from "./fold";
export { readKnown } from "./known";
export { pollPlan, SNMP_SECRETS } from "./poll";
export { mayReport, samplesTokenHash, takeSamples, trustNobody } from "./reports";
export { withWatchThread } from "./session";
export { watchSettings } from "./settings";
export { endStandInsBut, isPlayedByTheHour, pollStandIns, runsLive } from "./standIns";
export { SEED, simulatedLink } from "./simulatedLink";
export type { KnownSeries, LinkToLook } from "./worker";
