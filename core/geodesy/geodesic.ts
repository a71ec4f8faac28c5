import geographiclib from "geographiclib-geodesic";

const wgs84 = geographiclib.Geodesic.WGS84;

/** A place on the WGS 84 ellipsoid, degrees; south and west are negative. */
export interface Place {
  latDeg: number;
  lonDeg: number;
}

/** Azimuth folded into [0, 360). */
export function normalizeAzimuthDeg(azimuthDeg: number): number {
  return ((azimuthDeg % 360) + 360) % 360;
}

/** Angle folded into (−180, 180]. */
export function signedAngleDeg(angleDeg: number): number {
  const folded = normalizeAzimuthDeg(angleDeg);
  return folded > 180 ? folded - 360 : folded;
}

/**
 * Geodesic between two places: length in metres and the true azimuth at `from` toward `to`, and at `to` back toward
 * `from`. Source: Karney, "Algorithms for geodesics" (2013), WGS 84.
 */
export function inverseGeodesic(
  from: Place,
  to: Place,
): { distanceM: number; azimuthDeg: number; backAzimuthDeg: number } {
  const line = wgs84.Inverse(from.latDeg, from.lonDeg, to.latDeg, to.lonDeg) as {
    s12?: number;
    azi1?: number;
    azi2?: number;
  };
  return {
    distanceM: line.s12!,
    azimuthDeg: normalizeAzimuthDeg(line.azi1!),
    backAzimuthDeg: normalizeAzimuthDeg(line.azi2! + 180),
  };
}

/** The place `distanceM` metres from `from` along true azimuth `azimuthDeg`. */
export function destination(from: Place, azimuthDeg: number, distanceM: number): Place {
  const end = wgs84.Direct(from.latDeg, from.lonDeg, azimuthDeg, distanceM);
  return { latDeg: end.lat2!, lonDeg: end.lon2! };
}

/** Longest stretch laid as one cubic: the fourth derivative along a geodesic leaves it under 2 cm off up to 80° latitude. */
const STRETCH_M = 40_000;
const EQUATOR_M = 6_378_137;
const ECCENTRICITY_SQUARED = (2 - 1 / 298.257223563) / 298.257223563;
const DEGREES = 180 / Math.PI;

/** A geodesic: its length, and its azimuths as `inverseGeodesic` gives them. */
export type Geodesic = ReturnType<typeof inverseGeodesic>;

/** Places by latitude and longitude, degrees, in two arrays of one length. */
export interface PlacesAlong {
  latDeg: Float64Array;
  lonDeg: Float64Array;
}

/**
 * `count` ≥ 2 places evenly spread along the geodesic from `from` to `to`, ends included: cubics through exact points at
 * most 40 km apart that leave and meet them in the geodesic's direction. `line` saves solving it again; `into` is filled
 * rather than new arrays.
 */
export function placesAlong(
  from: Place,
  to: Place,
  count: number,
  line: Geodesic = inverseGeodesic(from, to),
  into: PlacesAlong = { latDeg: new Float64Array(count), lonDeg: new Float64Array(count) },
): PlacesAlong {
  const stretches = Math.max(1, Math.ceil(line.distanceM / STRETCH_M));
  if (stretches === 1) {
    layCubic(from, line.azimuthDeg, to, line.backAzimuthDeg + 180, line.distanceM, 0, count - 1, count, into, 1);
    return into;
  }
  const whole = wgs84.InverseLine(from.latDeg, from.lonDeg, to.latDeg, to.lonDeg);
  let start: Place = from;
  let startAzimuthDeg = line.azimuthDeg;
  for (let i = 0; i < stretches; i++) {
    const point = whole.Position(((i + 1) / stretches) * whole.s13) as { lat2?: number; lon2?: number; azi2?: number };
    const end: Place = i === stretches - 1 ? to : { latDeg: point.lat2!, lonDeg: point.lon2! };
    const first = Math.ceil((i / stretches) * (count - 1));
    const final = Math.floor(((i + 1) / stretches) * (count - 1));
    layCubic(start, startAzimuthDeg, end, point.azi2!, whole.s13 / stretches, first, final, count, into, stretches, i);
    start = end;
    startAzimuthDeg = point.azi2!;
  }
  return into;
}

/** Fills samples `first` to `final` of `count` on stretch `index` of `stretches`, each `lengthM` long. */
function layCubic(
  start: Place,
  startAzimuthDeg: number,
  end: Place,
  endAzimuthDeg: number,
  lengthM: number,
  first: number,
  final: number,
  count: number,
  { latDeg, lonDeg }: PlacesAlong,
  stretches: number,
  index = 0,
): void {
  const [lat0, lon0] = slopes(start.latDeg, startAzimuthDeg, lengthM);
  const [lat1, lon1] = slopes(end.latDeg, endAzimuthDeg, lengthM);
  const latStep = end.latDeg - start.latDeg;
  const lonStep = signedAngleDeg(end.lonDeg - start.lonDeg);
  const lat2 = 3 * latStep - 2 * lat0 - lat1;
  const lat3 = lat0 + lat1 - 2 * latStep;
  const lon2 = 3 * lonStep - 2 * lon0 - lon1;
  const lon3 = lon0 + lon1 - 2 * lonStep;
  const fromLatDeg = start.latDeg;
  const fromLonDeg = start.lonDeg;
  const step = stretches / (count - 1);
  for (let i = first; i <= final; i++) {
    const t = i * step - index;
    latDeg[i] = fromLatDeg + t * (lat0 + t * (lat2 + t * lat3));
    lonDeg[i] = fromLonDeg + t * (lon0 + t * (lon2 + t * lon3));
  }
  if (Math.abs(fromLonDeg + lonStep) > 180) for (let i = first; i <= final; i++) lonDeg[i] = signedAngleDeg(lonDeg[i]!);
  if (first === 0) [latDeg[0], lonDeg[0]] = [start.latDeg, start.lonDeg];
  if (final === count - 1) [latDeg[final], lonDeg[final]] = [end.latDeg, end.lonDeg];
}

/** Degrees of latitude and longitude gained over `lengthM` in a direction, from the radii of curvature of WGS 84. */
function slopes(latDeg: number, azimuthDeg: number, lengthM: number): [lat: number, lon: number] {
  const sine = Math.sin(latDeg / DEGREES);
  const w = 1 - ECCENTRICITY_SQUARED * sine * sine;
  const crossM = EQUATOR_M / Math.sqrt(w);
  const meridianM = (crossM * (1 - ECCENTRICITY_SQUARED)) / w;
  return [
    (lengthM * Math.cos(azimuthDeg / DEGREES) * DEGREES) / meridianM,
    (lengthM * Math.sin(azimuthDeg / DEGREES) * DEGREES) / (crossM * Math.cos(latDeg / DEGREES)),
  ];
}
