export { typeWords } from "./geojson";
export { guessMapping, PLACE_FIELDS, type Mapping } from "./fields";
export { interpretRows, type InterpretedRow, type InterpretOptions, type RowError } from "./interpret";
export { parsePosition, utmToPlace } from "./position";
export { readPasted, readTable } from "./readTable";
export { PlacesFileError, type SourceTable } from "./table";
export { xmlFeatures } from "./xml";
