/** What a column can be taken for. */
export const PLACE_FIELDS = [
  { key: "kind", label: "Kind", names: ["kind", "type", "class"] },
  { key: "name", label: "Name", names: ["name", "title", "customer", "site", "subscriber", "nombre"] },
  {
    key: "position",
    label: "Position, both in one",
    names: ["position", "coordinates", "latlon", "latlng", "location", "gps", "coords"],
  },
  { key: "lat", label: "Latitude", names: ["lat", "latitude", "latdeg", "y", "latitud"] },
  { key: "lon", label: "Longitude", names: ["lon", "lng", "long", "longitude", "londeg", "x", "longitud"] },
  { key: "easting", label: "UTM easting", names: ["easting", "east", "utme", "utmx"] },
  { key: "northing", label: "UTM northing", names: ["northing", "north", "utmn", "utmy"] },
  { key: "zone", label: "UTM zone", names: ["zone", "utmzone"] },
  { key: "height", label: "Antenna height, m", names: ["height", "heightm", "antennaheight", "antennaheightm"] },
  {
    key: "maxHeight",
    label: "Greatest height, m",
    names: ["maxheight", "maxheightm", "structureheight", "structureheightm"],
  },
  {
    key: "demand",
    label: "Demand down, Mbit/s",
    names: ["demand", "demandmbps", "mbps", "speed", "down", "demanddown"],
  },
  { key: "demandUp", label: "Demand up, Mbit/s", names: ["demandup", "demandupmbps", "up", "upload"] },
  { key: "tier", label: "Service tier", names: ["tier", "plan", "service", "package"] },
  { key: "status", label: "Status", names: ["status", "state", "stage"] },
  { key: "people", label: "People", names: ["people", "persons", "users"] },
  { key: "mount", label: "Mount", names: ["mount", "mounting"] },
  { key: "behind", label: "Behind wall or glass", names: ["behind", "glazing"] },
  { key: "structure", label: "Structure", names: ["structure", "structurekind"] },
  { key: "pole", label: "Pole diameter, mm", names: ["pole", "polediametermm", "polediameter"] },
  { key: "power", label: "Power", names: ["power"] },
  { key: "mounts", label: "Free mounts", names: ["mounts", "freemounts"] },
  { key: "feed", label: "Feed (yes/no)", names: ["feed", "isfeed", "uplink"] },
  { key: "feedMbps", label: "Feed, Mbit/s", names: ["feedmbps", "feedcapacity"] },
  { key: "access", label: "Access", names: ["access"] },
  { key: "terms", label: "Landowner's terms", names: ["terms", "landowner", "owner"] },
  { key: "hazards", label: "Hazards", names: ["hazards", "hazard", "danger"] },
  { key: "notes", label: "Notes", names: ["notes", "note", "desc", "description", "comment", "cmt"] },
] as const;
export type PlaceField = (typeof PLACE_FIELDS)[number]["key"];

/** Which column each field is read from, by index. */
export type Mapping = Partial<Record<PlaceField, number>>;

const plain = (text: string) =>
  text
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z]/g, "");

/** Columns by the names under which people keep each field; the first column of a name wins. */
export function guessMapping(columns: readonly string[]): Mapping {
  const mapping: Mapping = {};
  columns.forEach((title, index) => {
    const field = PLACE_FIELDS.find(({ names }) => (names as readonly string[]).includes(plain(title)));
    if (field && mapping[field.key] === undefined) mapping[field.key] = index;
  });
  // Pasted rows without a header: a column of names and one or two of coordinates.
  if (columns.every((title) => /^column \d+$/.test(title))) {
    if (columns.length === 2) Object.assign(mapping, { name: 0, position: 1 });
    if (columns.length >= 3) Object.assign(mapping, { name: 0, lat: 1, lon: 2 });
  }
  return mapping;
}
