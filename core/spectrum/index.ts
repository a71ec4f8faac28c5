export { channelNoise, channelPowerDbm, type ChannelNoise } from "./channelNoise";
export { channelCouplingDb } from "./coupling";
export { simulateScan, type HeardEmitter, type ScanSettings } from "./simulate";
