export {
  ALIGNMENT_AIDS,
  modulationSchema,
  POWER_INPUTS,
  radioModelSchema,
  type Modulation,
  type RadioModel,
} from "./model";
export { netRateMbps, sensitivityDbm } from "./throughput";
