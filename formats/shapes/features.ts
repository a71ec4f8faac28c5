import { PlacesFileError, xmlFeatures } from "../places";
import { decodeText } from "../text";

/** Features of a GeoJSON, KML or GPX file. Throws PlacesFileError that says what is wrong. */
export function readFeatures(bytes: Uint8Array): GeoJSON.Feature[] {
  const { text } = decodeText(bytes);
  if (text.trimStart().startsWith("<")) return xmlFeatures(text).features;
  let root: unknown;
  try {
    root = JSON.parse(text);
  } catch (error) {
    throw new PlacesFileError(`the file is no JSON: ${(error as Error).message}`);
  }
  const { type, features } = (root ?? {}) as { type?: unknown; features?: unknown };
  if (type === "Feature") return [root as GeoJSON.Feature];
  if (type !== "FeatureCollection" || !Array.isArray(features))
    throw new PlacesFileError(`the JSON is of type "${String(type)}"; a FeatureCollection or Feature is needed`);
  return features.filter((one): one is GeoJSON.Feature => typeof one === "object" && one !== null);
}
