type Line = (readonly [lonDeg: number, latDeg: number])[];
interface Geometry {
  type?: unknown;
  coordinates?: unknown;
  geometries?: unknown;
}

/** The lines of a GeoJSON FeatureCollection, and the outlines of its areas. Points and broken geometries are left out. */
export function ownLines(geojson: string): Line[] {
  const { features } = JSON.parse(geojson) as { features?: unknown };
  return Array.isArray(features)
    ? features.flatMap((feature) => linesOf((feature as { geometry?: Geometry } | null)?.geometry))
    : [];
}

function linesOf(geometry: Geometry | null | undefined): Line[] {
  if (geometry === null || typeof geometry !== "object") return [];
  const { type, coordinates, geometries } = geometry;
  if (type === "GeometryCollection" && Array.isArray(geometries))
    return geometries.flatMap((one) => linesOf(one as Geometry));
  if (!Array.isArray(coordinates)) return [];
  if (type === "LineString") return [lineOf(coordinates)];
  if (type === "MultiLineString" || type === "Polygon") return coordinates.map(lineOf);
  if (type === "MultiPolygon") return coordinates.flatMap((rings) => (Array.isArray(rings) ? rings.map(lineOf) : []));
  return [];
}

const lineOf = (points: unknown): Line =>
  Array.isArray(points)
    ? points.flatMap((point): Line => {
        const [lonDeg, latDeg] = Array.isArray(point) ? (point as unknown[]) : [];
        return Number.isFinite(lonDeg) && Number.isFinite(latDeg) ? [[lonDeg as number, latDeg as number]] : [];
      })
    : [];
