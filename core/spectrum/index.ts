export { channelNoise, channelPowerDbm, type ChannelNoise } from "./channelNoise";
export { channelCouplingDb, channelsMeet } from "./coupling";
export { simulateScan, type HeardEmitter, type ScanSettings } from "./simulate";
