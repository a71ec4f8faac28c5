import { OVERLAY_LIMIT_CHARACTERS } from "#core/plan";
import { PlacesFileError } from "../places";

/** Decimals of a degree that an overlay keeps: a decimetre. */
const DECIMALS = 6;

/** Lines, areas and points of a file as one GeoJSON text without anything that is not shown. Throws PlacesFileError. */
export function readOverlay(features: readonly GeoJSON.Feature[]): string {
  const kept = features.flatMap(({ geometry, properties }, index): GeoJSON.Feature[] => {
    if (!geometry) return [];
    checkPositions(geometry, index + 1);
    const name = properties?.name as unknown;
    return [{ type: "Feature", geometry, properties: typeof name === "string" ? { name: name.slice(0, 120) } : {} }];
  });
  if (kept.length === 0)
    throw new PlacesFileError("the file holds no lines, areas or points; one at least was expected");
  const text = JSON.stringify({ type: "FeatureCollection", features: kept }, (_, value: unknown) =>
    typeof value === "number" ? Math.round(value * 10 ** DECIMALS) / 10 ** DECIMALS : value,
  );
  if (text.length > OVERLAY_LIMIT_CHARACTERS)
    throw new PlacesFileError(
      `the overlay takes ${text.length} characters; at most ${OVERLAY_LIMIT_CHARACTERS} are kept`,
      { todo: "Simplify its lines, or bring only the part that lies over the plan." },
    );
  return text;
}

function checkPositions(geometry: GeoJSON.Geometry, feature: number): void {
  if (geometry.type === "GeometryCollection") return geometry.geometries.forEach((one) => checkPositions(one, feature));
  const walk = (at: unknown): void => {
    if (!Array.isArray(at))
      throw new PlacesFileError(`feature ${feature}: its coordinates are no list; [longitude, latitude] were expected`);
    if (typeof at[0] !== "number") return at.forEach(walk);
    const [lon, lat] = at as number[];
    if (!(Math.abs(lon!) <= 180 && Math.abs(lat ?? NaN) <= 90))
      throw new PlacesFileError(
        `feature ${feature}: position ${lon}, ${lat ?? "nothing"} must be longitude and latitude in degrees`,
      );
  };
  walk(geometry.coordinates);
}
