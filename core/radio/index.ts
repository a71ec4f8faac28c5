export { modulationSchema, POWER_INPUTS, radioModelSchema, type Modulation, type RadioModel } from "./model";
export { modulationAt, netRateMbps, sensitivityDbm } from "./throughput";
