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
