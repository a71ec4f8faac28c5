export { airtimeShare } from "./airtime";
export { backhaulOf, type Backhaul, type BackhaulFeed, type BackhaulHop, type BackhaulSite } from "./backhaul";
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
  type FrameAdvice,
  type SectorAirtime,
  type SectorLoad,
} from "./sectorLoad";
