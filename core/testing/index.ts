export { anyChange } from "./anyChange";
export { lopsided, valleyAndTwin } from "./lopsided";
export { crowd, town } from "./towns";
export {
  EIGHTY_GHZ,
  onBridge,
  radio,
  radioIn,
  reading,
  valley,
  valleySurface,
  type Valley,
  type ValleyRows,
} from "./valley";
