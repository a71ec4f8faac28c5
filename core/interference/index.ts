export { airChangeOf, type AirChange } from "./airChange";
export { channelRows, type ChannelRow } from "./channelRows";
export { emittersHeard } from "./emitters";
export { hearersOf } from "./hearers";
export { earsOf, hearingAfter, hearingAt, pairsHeard, type Hearing, type KnownProfile } from "./hearing";
export type { Air } from "./senders";
export { listeningIn, type Listening } from "./listening";
