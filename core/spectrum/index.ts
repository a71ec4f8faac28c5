export { assignChannels, channelsCost, type ChannelsQuestion } from "./assign";
export { channelNoise, channelPowerDbm, scanLooksToward } from "./channelNoise";
export { channelCouplingDb, channelsMeet } from "./coupling";
export { simulateScan, type HeardEmitter } from "./simulate";
