import { fieldsOf } from "#core/plan";
import type { z } from "zod";

/** A column of a file of places: the name under which it is written, its title, and the names under which it is read. */
interface PlaceColumn {
  key: string;
  label: string;
  names: readonly string[];
}

/** What only files say: which kind a row is, and where it lies in other notations. */
const OF_FILES: readonly PlaceColumn[] = [
  { key: "kind", label: "Kind", names: ["kind", "type", "class"] },
  {
    key: "position",
    label: "Position, both in one",
    names: ["position", "coordinates", "latlon", "latlng", "location", "gps", "coords"],
  },
  { key: "easting", label: "UTM easting", names: ["easting", "east", "utme", "utmx"] },
  { key: "northing", label: "UTM northing", names: ["northing", "north", "utmn", "utmy"] },
  { key: "zone", label: "UTM zone", names: ["zone", "utmzone"] },
];

/** Fields of places that stand in files, each with its schema; a column that both kinds have stands once. */
export const ROW_COLUMNS: readonly (PlaceColumn & { schema: z.ZodType })[] = ofRows();
function ofRows() {
  const columns = new Map<string, PlaceColumn & { schema: z.ZodType }>();
  for (const kind of ["subscribers", "sites"] as const)
    for (const { schema, facts } of fieldsOf(kind)) {
      if (!facts.column) continue;
      const { key, title, names } = facts.column;
      const known = columns.get(key);
      columns.set(key, { key, label: title, schema, names: [...(known?.names ?? []), ...names] });
    }
  return [...columns.values()];
}

/** What a column can be taken for. */
export const PLACE_FIELDS: readonly PlaceColumn[] = [...OF_FILES, ...ROW_COLUMNS];

/** Which column each field is read from, by index. */
export type Mapping = Partial<Record<string, number>>;

const plain = (text: string) =>
  text
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z]/g, "");

/** Columns by the names under which people keep each field; the first column of a name wins. */
export function guessMapping(columns: readonly string[]): Mapping {
  const mapping: Mapping = {};
  columns.forEach((title, index) => {
    const field = PLACE_FIELDS.find(({ names }) => names.includes(plain(title)));
    if (field && mapping[field.key] === undefined) mapping[field.key] = index;
  });
  // Pasted rows without a header: a column of names and one or two of coordinates.
  if (columns.every((title) => /^column \d+$/.test(title))) {
    if (columns.length === 2) Object.assign(mapping, { name: 0, position: 1 });
    if (columns.length >= 3) Object.assign(mapping, { name: 0, lat: 1, lon: 2 });
  }
  return mapping;
}
