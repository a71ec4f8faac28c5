export { ANTENNA_CSV_COLUMNS, readAntennaCsv, writeAntennaCsv } from "./antennaCsv";
export type { KitError, ReadKit } from "./error";
export { RADIO_FILE_KIND, radioFileSchema, readRadioJson, writeRadioJson } from "./radioJson";
