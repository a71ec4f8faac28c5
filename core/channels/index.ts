export { channelEars, channelGroups, type ChannelEar } from "./ears";
export {
  planChannels,
  rankedChanges,
  type ChannelMove,
  type ChannelPlan,
  type ChannelsAsk,
  type RateChange,
} from "./plan";
export {
  CHANNEL_SCHOOL_WORDS,
  CHANNEL_SCHOOLS,
  channelProblem,
  noiseCost,
  peopleLost,
  unitsOf,
  type ChannelProblem,
  type ChannelSchool,
} from "./question";
export { hurtsOf, type Hurt } from "./hurts";
