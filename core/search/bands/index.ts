export { BANDS, compareBands, type BandName, type BandResult, type BandRow } from "./bands";
