export { writeAddressesCsv } from "./addressesCsv";
export { writeOrderCsv } from "./orderCsv";
