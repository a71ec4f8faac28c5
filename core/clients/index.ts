export { clientAntennas, leastClientAntenna, type ClientAntennaRow } from "./antennas";
