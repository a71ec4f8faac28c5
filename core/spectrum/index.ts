export { channelNoise, channelPowerDbm, type ChannelNoise } from "./channelNoise";
export { simulateScan, type HeardEmitter, type ScanSettings } from "./simulate";
