export { readAntennaCsv, writeAntennaCsv } from "./antennaCsv";
export type { KitError } from "./error";
export { isPartsCsv, readPartsCsv, writePartsCsv } from "./partsCsv";
export { readProcedureJson, writeProcedureJson } from "./procedureJson";
export { radioFileSchema, readRadioJson, writeRadioJson } from "./radioJson";
