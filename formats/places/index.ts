export { MOST_ROWS, readPlacesCsv, type ImportedPlace, type ReadPlaces, type RowError } from "./csv";
