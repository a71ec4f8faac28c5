export { decodeText, type DecodedText } from "./decode";
export { parseNumber, usesDecimalComma } from "./number";
export { csvCell, guessDelimiter, withoutGuard, writeCsv } from "./csv";
