import type { Place } from "#core/geodesy";
import { toKML } from "@placemarkio/tokml";
import { DOMImplementation, XMLSerializer } from "@xmldom/xmldom";
import { writeCsv } from "../text";
import type { Thing } from "./things";

export const EXPORT_FORMATS = ["csv", "geojson", "kml", "gpx"] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

export const MEDIA_TYPES: Record<ExportFormat, string> = {
  csv: "text/csv; charset=utf-8",
  geojson: "application/geo+json",
  kml: "application/xml",
  gpx: "application/gpx+xml",
};

const position = ({ latDeg, lonDeg }: Place): [number, number] => [lonDeg, latDeg];

function features(things: readonly Thing[]): GeoJSON.FeatureCollection {
  return {
    type: "FeatureCollection",
    features: things.map(({ name, places, values }) => ({
      type: "Feature",
      geometry:
        places.length === 1
          ? { type: "Point", coordinates: position(places[0]!) }
          : { type: "LineString", coordinates: places.map(position) },
      properties: { name, ...values },
    })),
  };
}

/** Characters that XML 1.0 cannot carry at all. */
// eslint-disable-next-line no-control-regex
const UNWRITABLE = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;
const plainText = (text: string) => text.replace(UNWRITABLE, " ");

function writeGpx(things: readonly Thing[]): string {
  const namespace = "http://www.topografix.com/GPX/1/1";
  const document = new DOMImplementation().createDocument(namespace, "gpx", null);
  const root = document.documentElement!;
  root.setAttribute("version", "1.1");
  root.setAttribute("creator", "Tejado");
  const child = (parent: typeof root, tag: string, text?: string) => {
    const element = document.createElementNS(namespace, tag);
    if (text !== undefined) element.appendChild(document.createTextNode(plainText(text)));
    parent.appendChild(element);
    return element;
  };
  const point = (parent: typeof root, tag: string, { latDeg, lonDeg }: Place) => {
    const element = child(parent, tag);
    element.setAttribute("lat", String(latDeg));
    element.setAttribute("lon", String(lonDeg));
    return element;
  };
  // GPX wants all waypoints before the first route.
  for (const { name, note, places } of things.filter((thing) => thing.places.length === 1)) {
    const waypoint = point(root, "wpt", places[0]!);
    child(waypoint, "name", name);
    if (note) child(waypoint, "desc", note);
  }
  for (const { name, note, places } of things.filter((thing) => thing.places.length > 1)) {
    const route = child(root, "rte");
    child(route, "name", name);
    if (note) child(route, "desc", note);
    for (const place of places) point(route, "rtept", place);
  }
  return `<?xml version="1.0" encoding="UTF-8"?>\n${new XMLSerializer().serializeToString(document)}\n`;
}

/** Things in one of the open formats. CSV carries every value; positions in WGS 84 degrees. */
export function writeThings(things: readonly Thing[], format: ExportFormat): string {
  if (format === "csv") {
    const columns = [...new Set(things.flatMap(({ values }) => Object.keys(values)))];
    return writeCsv(
      columns,
      things.map(({ values }) => columns.map((column) => values[column] ?? null)),
    );
  }
  if (format === "gpx") return writeGpx(things);
  const collection = features(things);
  if (format === "geojson") return `${JSON.stringify(collection, null, 1)}\n`;
  for (const feature of collection.features)
    for (const [key, value] of Object.entries(feature.properties ?? {}))
      if (typeof value === "string") feature.properties![key] = plainText(value);
  return `${toKML(collection as Parameters<typeof toKML>[0])}\n`;
}
