import { PlacesFileError, typeWords, xmlFeatures } from "../places";
import { decodeText, readJson } from "../text";

/** Features of a GeoJSON, KML or GPX file. Throws PlacesFileError that says what is wrong. */
export function readFeatures(bytes: Uint8Array): GeoJSON.Feature[] {
  const { text } = decodeText(bytes);
  if (text.trimStart().startsWith("<")) return xmlFeatures(text).features;
  const { value: root, problem } = readJson(text);
  if (problem) throw new PlacesFileError(`the file ${problem}`);
  const { type, features } = (root ?? {}) as { type?: unknown; features?: unknown };
  if (type === "Feature") return [root as GeoJSON.Feature];
  if (type !== "FeatureCollection" || !Array.isArray(features))
    throw new PlacesFileError(`the JSON is ${typeWords(type)}; a FeatureCollection or Feature is needed`);
  return features.filter((one): one is GeoJSON.Feature => typeof one === "object" && one !== null);
}
