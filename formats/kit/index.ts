export { ANTENNA_CSV_COLUMNS, readAntennaCsv, writeAntennaCsv } from "./antennaCsv";
export type { KitError, ReadKit } from "./error";
export { isPartsCsv, PARTS_CSV_COLUMNS, readPartsCsv, writePartsCsv } from "./partsCsv";
export { PROCEDURE_FILE_KIND, readProcedureJson, writeProcedureJson } from "./procedureJson";
export { RADIO_FILE_KIND, radioFileSchema, readRadioJson, writeRadioJson } from "./radioJson";
