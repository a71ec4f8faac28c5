export { airChangeOf, type AirChange } from "./airChange";
export { channelRows, type ChannelRow } from "./channelRows";
export { heardTape, type HeardTape } from "./heardTape";
export { emittersHeard } from "./emitters";
export { earsOf, hearingAfter, hearingAt, hearingOver, type Hearing, type KnownProfile } from "./hearing";
export { airOf, airSteps, type Air } from "./senders";
export { listeningIn, type Listening } from "./listening";
