export { decodeText, type DecodedText } from "./decode";
export { parseNumber, usesDecimalComma } from "./number";
export { csvCell, withoutGuard, writeCsv } from "./csv";
