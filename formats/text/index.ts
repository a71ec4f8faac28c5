export { decodeText, type DecodedText } from "./decode";
export { readJson, type ReadJson } from "./json";
export { parseNumber, usesDecimalComma } from "./number";
export { csvCell, guessDelimiter, withoutGuard, writeCsv } from "./csv";
export { JsonMeter } from "./jsonMeter";
