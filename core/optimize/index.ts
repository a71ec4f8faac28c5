export { FREEDOMS, type Freedom } from "./moves";
export { optimizeSectors, tradeCurve, type OptimizeAsk, type TradePoint } from "./optimize";
export { strayKm2, worthOf } from "./worth";
