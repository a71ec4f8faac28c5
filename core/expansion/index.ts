export { fullHopWays, hopWays, type HopWay } from "./hopWays";
export { fullSectorWays } from "./sectorWays";
