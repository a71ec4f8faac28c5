export { assignChannels, channelsCost, type ChannelsQuestion, type ChosenChannels } from "./assign";
export { channelNoise, channelPowerDbm, scanLooksToward, type ChannelNoise } from "./channelNoise";
export { channelCouplingDb, channelsMeet } from "./coupling";
export { simulateScan, type HeardEmitter, type ScanSettings } from "./simulate";
