export { decodeTile, encodeTile } from "./codec";
