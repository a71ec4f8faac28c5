export { airChangeOf, type AirChange } from "./airChange";
export { channelRows, type ChannelRow } from "./channelRows";
export { emittersHeard } from "./emitters";
export { earsOf, hearingAfter, hearingAt, type Hearing, type KnownProfile } from "./hearing";
export type { Air } from "./senders";
export { listeningIn, type Listening } from "./listening";
