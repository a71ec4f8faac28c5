export { airtimeShare } from "./airtime";
export { backhaulOf, type Backhaul, type BackhaulHop } from "./backhaul";
export { grown, growthOver } from "./growth";
export { yearsUntilFull } from "./busy";
export {
  accessLinks,
  frameAdvice,
  loadWith,
  sectorAirtime,
  sectorLoad,
  usualDemand,
  type CustomerAirtime,
  type SectorLoad,
} from "./sectorLoad";
