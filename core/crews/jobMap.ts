import { contours } from "d3-contour";
import { M_PER_DEG, destination, inverseGeodesic, signedAngleDeg, type Place } from "../geodesy";
import type { Drawing, Mark } from "../procedures";
import { figure } from "../words";

/** Samples of the ground along each side of a job's map. */
export const MAP_SAMPLES = 96;
/** The map reaches beyond the path by this share of its length, and shows at least so much, m. */
const BEYOND = 0.3;
const LEAST_SIDE_M = 1500;
/** Contour lines at no more heights than this, by intervals that people read. */
const LINES = 10;
const INTERVALS_M = [1, 2, 5, 10, 20, 50, 100, 200, 500];
/** Side of the drawing, in its own units. */
const SIZE = 320;
/** Points of a contour nearer to each other than this are one. */
const LEAST_STEP = 1.2;
/** The sea is flat at nought: its shore is drawn just above it. */
const SHORE_M = 0.05;

/** A square of country: its north-western corner, its side, and north up. */
export interface MapFrame {
  westDeg: number;
  northDeg: number;
  sideM: number;
  lonSpanDeg: number;
  latSpanDeg: number;
}

type Point = [x: number, y: number];

/** What a phone and a sheet of paper hold of the country about a path, in units of the drawing. */
export interface JobMap {
  frame: MapFrame;
  /** Between contour lines; null where the plan knows no ground. */
  intervalM: number | null;
  contours: { amslM: number; lines: Point[][] }[];
  /** The plan's own lines: roads and whatever else was loaded. */
  lines: Point[][];
}

/** The square about both ends of a path. */
export function mapFrame(a: Place, b: Place): MapFrame {
  const { distanceM, azimuthDeg } = inverseGeodesic(a, b);
  const middle = destination(a, azimuthDeg, distanceM / 2);
  const sideM = Math.max(LEAST_SIDE_M, distanceM * (1 + 2 * BEYOND));
  const latSpanDeg = sideM / M_PER_DEG;
  const lonSpanDeg = latSpanDeg / Math.cos((middle.latDeg * Math.PI) / 180);
  return {
    ...{ sideM, latSpanDeg, lonSpanDeg },
    westDeg: middle.lonDeg - lonSpanDeg / 2,
    northDeg: middle.latDeg + latSpanDeg / 2,
  };
}

/** The places at which a map's ground is read, row by row from the north-west. */
export function mapPlaces({ westDeg, northDeg, lonSpanDeg, latSpanDeg }: MapFrame): Place[] {
  const step = 1 / (MAP_SAMPLES - 1);
  return Array.from({ length: MAP_SAMPLES ** 2 }, (_, i) => ({
    latDeg: northDeg - latSpanDeg * step * Math.floor(i / MAP_SAMPLES),
    lonDeg: westDeg + lonSpanDeg * step * (i % MAP_SAMPLES),
  }));
}

/** Contours of the ground that was read at `mapPlaces`, NaN where none is known, with lines of the plan's own, in degrees. */
export function jobMap(frame: MapFrame, amslM: Float32Array, own: readonly (readonly [number, number])[][]): JobMap {
  let [least, most] = [Infinity, -Infinity];
  for (const height of amslM) {
    if (Number.isNaN(height)) continue;
    least = Math.min(least, height);
    most = Math.max(most, height);
  }
  const lines = own.flatMap((line) => insideOnly(line.map(([lonDeg, latDeg]) => pointOf(frame, { lonDeg, latDeg }))));
  if (least > most) return { frame, intervalM: null, contours: [], lines };
  const intervalM = INTERVALS_M.find((one) => (most - least) / one <= LINES) ?? INTERVALS_M.at(-1)!;
  const levels: number[] = [];
  for (let level = Math.ceil(least / intervalM) * intervalM; level <= most; level += intervalM)
    levels.push(level === 0 ? SHORE_M : level);
  // Ground that nobody knows lies under every line.
  const values = Array.from(amslM, (height) => (Number.isNaN(height) ? least - intervalM : height));
  const scale = SIZE / (MAP_SAMPLES - 1);
  // Where the ground ends there is no contour, though its values step down.
  const isKnown = ([x, y]: Point) => {
    const [column, row] = [Math.floor(x / scale), Math.floor(y / scale)];
    return [0, 1].every((down) =>
      [0, 1].every((right) => !Number.isNaN(amslM[(row + down) * MAP_SAMPLES + column + right])),
    );
  };
  const found = contours().size([MAP_SAMPLES, MAP_SAMPLES]).thresholds(levels)(values);
  return {
    ...{ frame, intervalM, lines },
    contours: found.map(({ value, coordinates }) => ({
      amslM: value,
      // Half a sample: a contour's own coordinates count from a cell's corner.
      lines: coordinates
        .flat()
        .map((ring) => ring.map(([x, y]): Point => [(x! - 0.5) * scale, (y! - 0.5) * scale]))
        .flatMap((ring) => insideOnly(ring, isKnown)),
    })),
  };
}

const pointOf = ({ westDeg, northDeg, lonSpanDeg, latSpanDeg }: MapFrame, { latDeg, lonDeg }: Place): Point => [
  (signedAngleDeg(lonDeg - westDeg) / lonSpanDeg) * SIZE,
  ((northDeg - latDeg) / latSpanDeg) * SIZE,
];

const isInside = ([x, y]: Point): boolean => x > 0 && x < SIZE && y > 0 && y < SIZE;

/** Whether a place stands on a map. */
export const isOnMap = (frame: MapFrame, place: Place): boolean => isInside(pointOf(frame, place));

/** The pieces of a line that lie within the map, its border and whatever is not wanted left out, thinned to what can be seen. */
function insideOnly(points: readonly Point[], isWanted: (point: Point) => boolean = () => true): Point[][] {
  const pieces: Point[][] = [];
  let piece: Point[] = [];
  const end = () => {
    if (piece.length > 1) pieces.push(piece);
    piece = [];
  };
  for (const point of points) {
    const [x, y] = point;
    if (!isInside(point) || !isWanted(point)) {
      end();
      continue;
    }
    const last = piece.at(-1);
    if (!last || Math.hypot(x - last[0], y - last[1]) >= LEAST_STEP) piece.push([tenth(x), tenth(y)]);
  }
  end();
  return pieces;
}
const tenth = (value: number): number => Math.round(value * 10) / 10;

/** A place that stands on a map by name. */
export interface Named extends Place {
  name: string;
}

/** The map as it is drawn: contours with their heights, own lines, both ends with the path between them, other sites, north and a scale. */
export function jobMapDrawing(
  { frame, intervalM, contours, lines }: JobMap,
  a: Named,
  b: Named,
  others: readonly Named[],
): Drawing {
  const [from, to] = [pointOf(frame, a), pointOf(frame, b)];
  const name = ([x, y]: Point, text: string): Mark => ({
    kind: "text",
    at: [Math.min(SIZE - 40, Math.max(40, x)), y > SIZE - 20 ? y - 8 : y + 15],
    text,
  });
  const sites = others
    .map((one) => ({ at: pointOf(frame, one), text: one.name }))
    .filter(({ at, text }) => isInside(at) && text !== a.name && text !== b.name);
  const scaleM = SCALES_M.findLast((one) => one <= frame.sideM / 3) ?? SCALES_M[0]!;
  const scaleTo = 12 + (scaleM / frame.sideM) * SIZE;
  return {
    ...{ width: SIZE, height: SIZE },
    marks: [
      ...contours.flatMap(({ amslM, lines: drawn }): Mark[] =>
        drawn.map((points) => ({ kind: "path", points, look: isIndex(amslM, intervalM) ? "contour" : "faint" })),
      ),
      ...contours.flatMap(({ amslM, lines: drawn }): Mark[] => {
        const longest = drawn.reduce<Point[]>((most, one) => (one.length > most.length ? one : most), []);
        const at = longest[Math.floor(longest.length / 2)];
        return isIndex(amslM, intervalM) && at && longest.length > 12
          ? [{ kind: "text", at, text: figure(amslM, 0) }]
          : [];
      }),
      ...lines.map((points): Mark => ({ kind: "path", points, look: "own" })),
      { kind: "line", from, to, weight: 2.5 },
      ...sites.flatMap(({ at, text }): Mark[] => [
        { kind: "circle", at, radius: 2.5, isFilled: false },
        name(at, text),
      ]),
      ...[
        { at: from, text: a.name },
        { at: to, text: b.name },
      ].flatMap(({ at, text }): Mark[] => [{ kind: "circle", at, radius: 5, isFilled: true }, name(at, text)]),
      { kind: "line", from: [12, SIZE - 12], to: [scaleTo, SIZE - 12], weight: 2 },
      {
        kind: "text",
        at: [(12 + scaleTo) / 2, SIZE - 17],
        text: scaleM < 1000 ? `${scaleM} m` : `${scaleM / 1000} km`,
      },
      { kind: "line", from: [SIZE - 16, 34], to: [SIZE - 16, 18], weight: 1.5 },
      { kind: "text", at: [SIZE - 16, 14], text: "N" },
    ],
    says: [
      "North is up; the heavy line is the path.",
      intervalM === null
        ? "The plan knows no ground here."
        : `Contour lines every ${intervalM} m, heights in m above the sea.`,
      ...(lines.length > 0 ? ["Broken lines are the plan's own."] : []),
    ].join(" "),
  };
}
const SCALES_M = [100, 200, 500, 1000, 2000, 5000, 10_000, 20_000, 50_000];
/** Every second line is drawn heavier and carries its height. */
const isIndex = (amslM: number, intervalM: number | null): boolean => Math.round(amslM / (intervalM ?? 1)) % 2 === 0;
