export { decodeText } from "./decode";
export { readJson } from "./json";
export { parseNumber, usesDecimalComma } from "./number";
export { csvCell, guessDelimiter, withoutGuard, writeCsv } from "./csv";
export { JsonMeter } from "./jsonMeter";
