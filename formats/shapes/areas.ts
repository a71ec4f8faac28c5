import { areaSchema, type Area } from "#core/plan";
import type { RowError } from "../places";
import { parseNumber } from "../text";

export interface AreaOptions {
  planId: string;
  kind: Area["kind"];
  /** Property that holds the height, m; null takes `heightM` for all. */
  heightProperty: string | null;
  /** Height of outlines that do not say. */
  heightM: number;
  density: number;
}

interface ReadAreas {
  areas: Area[];
  errors: RowError[];
}

/** Outlines taken at most from one file. */
const MOST_AREAS = 20_000;

/** Names of the properties that outlines of a file carry, the ones most likely to be a height first. */
export function outlineProperties(features: readonly GeoJSON.Feature[]): string[] {
  const names = new Set<string>();
  for (const { properties } of features.slice(0, 500))
    for (const name of Object.keys(properties ?? {})) names.add(name);
  const isHeight = (name: string) => (/height|höhe|hoehe|altura|^h$|^z$/i.test(name) ? 0 : 1);
  return [...names].sort((x, y) => isHeight(x) - isHeight(y) || x.localeCompare(y));
}

/**
 * Polygons as outlines of cover, one for each outer ring. Features that cannot be taken are listed with their number,
 * field, value and reason; the others come through.
 */
export function readAreas(features: readonly GeoJSON.Feature[], options: AreaOptions, makeId: () => string): ReadAreas {
  const areas: Area[] = [];
  const errors: RowError[] = [];
  features.forEach(({ geometry, properties }, index) => {
    const row = index + 1;
    const reject = (field: string, value: unknown, reason: string) =>
      errors.push({ row, field, value: String(value).slice(0, 80), reason });
    const polygons =
      geometry?.type === "Polygon"
        ? [geometry.coordinates]
        : geometry?.type === "MultiPolygon"
          ? geometry.coordinates
          : null;
    if (!polygons) return void reject("geometry", geometry?.type ?? "none", "is not a polygon");
    const said = options.heightProperty === null ? undefined : (properties?.[options.heightProperty] as unknown);
    // "12 m" is how many maps write it.
    const text = said === undefined || said === null ? "" : String(said).replace(/\s*m$/i, "");
    const heightM = text === "" ? options.heightM : parseNumber(text, false);
    const named = properties?.name as unknown;
    for (const polygon of polygons) {
      const rings = Array.isArray(polygon)
        ? polygon.map((ring) => (Array.isArray(ring) ? ring.map((at) => [at?.[0], at?.[1]]) : ring))
        : polygon;
      const parsed = areaSchema.safeParse({
        id: makeId(),
        planId: options.planId,
        name: typeof named === "string" ? named.slice(0, 120) : "",
        kind: options.kind,
        heightM,
        density: options.density,
        rings,
      });
      if (parsed.success) areas.push(parsed.data);
      else {
        const { path, message } = parsed.error.issues[0]!;
        if (path[0] === "heightM")
          reject(options.heightProperty ?? "height", said ?? heightM, "must lie between 0 and 300 m");
        else reject(path.join("."), valueAt({ rings }, path), message);
      }
    }
  });
  if (areas.length > MOST_AREAS) {
    errors.push({
      row: 0,
      field: "file",
      value: `${areas.length} outlines`,
      reason: `at most ${MOST_AREAS} are taken`,
    });
    return { areas: [], errors };
  }
  return { areas, errors };
}

function valueAt(root: unknown, path: readonly PropertyKey[]): unknown {
  let at = root;
  for (const step of path) at = (at as Record<PropertyKey, unknown> | undefined)?.[step];
  return typeof at === "object" ? JSON.stringify(at)?.slice(0, 80) : at;
}
