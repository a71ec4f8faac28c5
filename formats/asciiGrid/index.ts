export { AsciiGridError, readAsciiGrid, type AsciiGrid } from "./read";
