import { readJson } from "../text";
import { PlacesFileError, type SourceTable } from "./table";

interface FeatureLike {
  properties?: unknown;
  geometry?: { type?: unknown; coordinates?: unknown } | null;
  id?: unknown;
}

const asText = (value: unknown): string =>
  value === null || value === undefined ? "" : typeof value === "object" ? JSON.stringify(value) : String(value);

/** A point that stands for a geometry: itself, or the middle of its first ring's or line's corners. */
function pointOf(geometry: FeatureLike["geometry"]): [string, string, string] {
  let at: unknown = geometry?.coordinates;
  const isNumbers = (value: unknown): value is number[] => Array.isArray(value) && typeof value[0] === "number";
  for (let depth = 0; depth < 4 && Array.isArray(at) && !isNumbers(at); depth++) {
    if (at.length > 0 && at.every(isNumbers)) {
      const corners = at as number[][];
      const mean = (axis: number) => corners.reduce((sum, corner) => sum + (corner[axis] ?? NaN), 0) / corners.length;
      return [String(mean(0)), String(mean(1)), ""];
    }
    at = at[0] as unknown;
  }
  return isNumbers(at) ? [asText(at[0]), asText(at[1]), asText(at[2])] : ["", "", ""];
}

/** Features as rows: their properties, and longitude and latitude. */
export function featuresTable(found: string, features: readonly FeatureLike[]): SourceTable {
  const names = new Set<string>();
  for (const { properties } of features)
    if (properties && typeof properties === "object") for (const name of Object.keys(properties)) names.add(name);
  const columns = [...names];
  return {
    found,
    columns: [...columns, "longitude", "latitude", "elevation"],
    rows: features.map((feature, index) => {
      const properties = (feature.properties ?? {}) as Record<string, unknown>;
      return {
        row: index + 1,
        cells: [...columns.map((name) => asText(properties[name])), ...pointOf(feature.geometry)],
      };
    }),
    decimalComma: false,
  };
}

/** What a JSON says that it is. */
export const typeWords = (type: unknown): string =>
  typeof type === "string" ? `of type "${type.slice(0, 40)}"` : "of no type that it tells";

export function geojsonTable(text: string): SourceTable {
  const { value, problem } = readJson(text);
  if (problem) throw new PlacesFileError(`the file begins like GeoJSON but ${problem}`);
  const root = value as { type?: unknown; features?: unknown } & FeatureLike;
  if (root?.type === "Feature") return featuresTable("GeoJSON", [root]);
  if (root?.type !== "FeatureCollection" || !Array.isArray(root.features))
    throw new PlacesFileError(`the JSON is ${typeWords(root?.type)}; a FeatureCollection or Feature is needed`);
  const features = root.features.filter((one): one is FeatureLike => typeof one === "object" && one !== null);
  return featuresTable("GeoJSON", features);
}
