export { boxHolds } from "./box";
export {
  ALIGNMENT_AIDS,
  modulationSchema,
  POWER_INPUTS,
  radioModelSchema,
  type Modulation,
  type RadioModel,
} from "./model";
export {
  airRateMbps,
  commonModulations,
  frameShare,
  isChannelInBand,
  netRateMbps,
  returnFrequencyMHz,
  sensitivityDbm,
} from "./throughput";
