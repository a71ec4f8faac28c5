export { boxHolds } from "./box";
export {
  ALIGNMENT_AIDS,
  POWER_INPUTS,
  POWER_SETTINGS,
  radioModelSchema,
  type Modulation,
  type RadioModel,
} from "./model";
export { powerSettingText, powerToSet, sendingChains, totalOfSetting, type PowerToSet } from "./powerSetting";
export {
  airRateMbps,
  commonModulations,
  frameShare,
  isChannelInBand,
  listensOnMHz,
  netRateMbps,
  returnFrequencyMHz,
  sendsOnMHz,
  sensitivityDbm,
} from "./throughput";
