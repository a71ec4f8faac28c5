import { gpx, kml } from "@tmcw/togeojson";
import { DOMParser } from "@xmldom/xmldom";
import { featuresTable } from "./geojson";
import { PlacesFileError, type SourceTable } from "./table";

/** Places of a KML or GPX document. Documents that declare entities are refused: no honest export needs them. */
export function xmlTable(text: string): SourceTable {
  const features = xmlFeatures(text);
  return featuresTable(features.format, features.features);
}

/** That a document is broken, with the line where the parser says that it noticed. */
function brokenXml(complaint: string): string {
  const line = /line:(\d+)/.exec(complaint)?.[1];
  return `the XML is broken${line ? ` in line ${line}` : ""}: a tag is not closed, stands in the wrong place, or holds a sign that no XML has`;
}

/** Features of a KML or GPX document, whatever their geometry. */
export function xmlFeatures(text: string): { format: "KML" | "GPX"; features: GeoJSON.Feature[] } {
  const doctype = text.search(/<!(DOCTYPE|ENTITY)/i);
  if (doctype >= 0)
    throw new PlacesFileError(
      `position ${doctype}: the document declares a document type or entities; neither is taken`,
    );
  let complaint: string | null = null;
  const parser = new DOMParser({
    onError: (level, message) => {
      if (level !== "warning") complaint ??= message;
    },
  });
  let document: ReturnType<DOMParser["parseFromString"]>;
  try {
    document = parser.parseFromString(text, "text/xml");
  } catch (error) {
    throw new PlacesFileError(brokenXml(complaint ?? String(error)), { cause: error });
  }
  if (complaint) throw new PlacesFileError(brokenXml(complaint));
  const root = document.documentElement?.localName?.toLowerCase();
  const convert = root === "kml" ? kml : root === "gpx" ? gpx : null;
  if (!convert) throw new PlacesFileError(`the XML is <${root ?? "?"}>; kml and gpx are read`);
  try {
    const { features } = convert(document as unknown as Document) as GeoJSON.FeatureCollection;
    return { format: root === "kml" ? "KML" : "GPX", features };
  } catch (error) {
    throw new PlacesFileError(
      `the ${root} holds places that cannot be read; longitude, latitude and height in degrees and metres were expected`,
      {
        cause: error,
      },
    );
  }
}
