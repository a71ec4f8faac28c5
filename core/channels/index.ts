export { channelEars, channelGroups, type ChannelEar } from "./ears";
export {
  planChannels,
  rateChanges,
  type ChannelMove,
  type ChannelPlan,
  type ChannelsAsk,
  type RateChange,
} from "./plan";
export {
  CHANNEL_SCHOOL_WORDS,
  CHANNEL_SCHOOLS,
  channelProblem,
  peopleLost,
  unitsOf,
  type ChannelProblem,
  type ChannelSchool,
} from "./question";
