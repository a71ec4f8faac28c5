export { BANDS, compareBands, type BandName, type BandRow } from "./bands";
