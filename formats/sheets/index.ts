export { writeHosts, writeZone } from "./hosts";
export { writeSheetsJson, writeSheetsText } from "./sheets";
