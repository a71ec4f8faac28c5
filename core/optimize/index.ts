export { FREEDOMS, type Freedom } from "./moves";
export { optimizeSectors, tradeCurve, type OptimizeAsk, type Optimizing, type TradePoint } from "./optimize";
export { strayKm2, worthOf, type Worth } from "./worth";
