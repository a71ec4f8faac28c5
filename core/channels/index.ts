export { channelEars, channelGroups, earsNow } from "./ears";
export { planChannels, type ChannelMove, type ChannelPlan } from "./plan";
export { NO_RATE_CHANGES, rateChanges, rateChangeSteps, type RateChange, type RateChanges } from "./rates";
export {
  CHANNEL_SCHOOL_WORDS,
  CHANNEL_SCHOOLS,
  channelProblem,
  noiseCost,
  peopleLost,
  unitsOf,
  type ChannelsAsk,
  type ChannelSchool,
} from "./question";
export { isForbidden, mayUse, groupSites, NO_LIMITS, type ChannelLimits } from "./limits";
export { hurtsOf, mergedHurts, type Hurt } from "./hurts";
export { changeOrder, groupRadios } from "./order";
export {
  runChanges,
  toldRadios,
  trialSeconds,
  type Air,
  type ChannelAdapter,
  type DeviceSays,
  type GroupReport,
  type GroupState,
  type RunGroup,
  type RunLine,
} from "./run";
export { powerChangeText, runGroups, type RunMove } from "./runOrder";
export { advisedWidth, widthTable, type WidthRow } from "./widths";
