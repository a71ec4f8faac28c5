import { expect, test } from "@jest/globals";
import { jobMap, jobMapDrawing, mapFrame, MAP_SAMPLES, mapPlaces, ownLines } from "#core/crews";
import { inverseGeodesic } from "#core/geodesy";

const a = { name: "West", latDeg: 40, lonDeg: -4 };
const b = { name: "East", latDeg: 40, lonDeg: -3.95 };
const frame = mapFrame(a, b);
const places = mapPlaces(frame);
const middle = { latDeg: 40, lonDeg: -3.975 };
const distancesM = places.map((place) => inverseGeodesic(middle, place).distanceM);
const ground = (heightM: (distanceM: number) => number) => Float32Array.from(distancesM, heightM);

test("the map is a square about the path that reaches beyond both ends, and never a keyhole", () => {
  const pathM = inverseGeodesic(a, b).distanceM;
  expect(frame.sideM).toBeCloseTo(pathM * 1.6, 0);
  const [first, last] = [places[0]!, places.at(-1)!];
  const across = inverseGeodesic(first, { ...first, lonDeg: last.lonDeg }).distanceM;
  const down = inverseGeodesic(first, { ...first, latDeg: last.latDeg }).distanceM;
  expect(across / frame.sideM).toBeCloseTo(1, 2);
  expect(down / frame.sideM).toBeCloseTo(1, 2);
  expect(first.latDeg).toBeGreaterThan(last.latDeg);
  expect((first.lonDeg + last.lonDeg) / 2).toBeCloseTo(middle.lonDeg, 5);
  expect(mapFrame(a, { ...a, lonDeg: -3.999 }).sideM).toBe(1500);
});

test("across the date line both ends stand on the map", () => {
  const [west, east] = [
    { name: "West", latDeg: -17, lonDeg: 179.98 },
    { name: "East", latDeg: -17, lonDeg: -179.98 },
  ];
  const map = jobMap(mapFrame(west, east), new Float32Array(MAP_SAMPLES ** 2), []);
  const circles = jobMapDrawing(map, west, east, []).marks.filter((mark) => mark.kind === "circle");
  const xs = circles.map((mark) => (mark.kind === "circle" ? mark.at[0] : NaN));
  expect(xs[0]).toBeCloseTo(60, 0);
  expect(xs[1]).toBeCloseTo(260, 0);
});

test("contours of a cone are circles at their heights, whichever ground is not known", () => {
  const map = jobMap(
    frame,
    ground((distanceM) => 300 - distanceM / 20),
    [],
  );
  expect(map.intervalM).toBe(50);
  const unitM = frame.sideM / 320;
  const rings = map.contours.filter(({ amslM }) => amslM >= 150);
  expect(rings.map(({ amslM }) => amslM)).toEqual([150, 200, 250]);
  for (const { amslM, lines } of rings) {
    expect(lines).toHaveLength(1);
    for (const [x, y] of lines[0]!)
      expect(Math.abs(Math.hypot(x - 160, y - 160) * unitM - (300 - amslM) * 20) / unitM).toBeLessThan(2.5);
  }
  const half = ground((distanceM) => 300 - distanceM / 20).map((height, i) => (i % MAP_SAMPLES < 48 ? NaN : height));
  const known = jobMap(frame, half, []).contours.find(({ amslM }) => amslM === 200)!;
  // A half circle, not closed along the border of what is known.
  expect(Math.min(...known.lines.flat().map(([x]) => x))).toBeGreaterThan(158);
  for (const [x, y] of known.lines.flat())
    expect(Math.abs(Math.hypot(x - 160, y - 160) * unitM - 2000) / unitM).toBeLessThan(2.5);
  const flat = jobMap(
    frame,
    ground(() => 12.3),
    [],
  );
  expect(flat.contours.flatMap(({ lines }) => lines)).toEqual([]);
  expect(jobMapDrawing(flat, a, b, []).says).toContain("every 1 m");
  const nothing = jobMap(
    frame,
    ground(() => NaN),
    [],
  );
  expect(nothing.contours).toEqual([]);
  expect(jobMapDrawing(nothing, a, b, []).says).toContain("knows no ground here");
});

test("own lines are cut at the border; the drawing names both ends and the other sites on it", () => {
  const road = [
    [-5, 40],
    [-3.99, 40],
    [-3.96, 40],
    [-3, 40],
    [-3.97, 39.99],
    [-3.97, 40.01],
  ];
  const geojson = JSON.stringify({
    type: "FeatureCollection",
    features: [
      { type: "Feature", geometry: { type: "LineString", coordinates: road } },
      {
        type: "Feature",
        geometry: { type: "GeometryCollection", geometries: [{ type: "MultiLineString", coordinates: [road, "x"] }] },
      },
      { type: "Feature", geometry: { type: "MultiPolygon", coordinates: [[road], 7] } },
      { type: "Feature", geometry: { type: "Point", coordinates: [-3.97, 40] } },
      { type: "Feature", geometry: null },
      null,
    ],
  });
  const lines = ownLines(geojson);
  expect(lines.filter((line) => line.length > 0)).toHaveLength(3);
  const map = jobMap(
    frame,
    ground(() => 0),
    lines.slice(0, 1),
  );
  expect(map.lines.map((line) => line.length)).toEqual([2, 2]);
  const [[x1, y1], [x2]] = map.lines[0] as [[number, number], [number, number]];
  expect(y1).toBeCloseTo(160, 0);
  expect((x2 - x1) / 320).toBeCloseTo(0.03 / frame.lonSpanDeg, 2);
  const drawing = jobMapDrawing(map, a, b, [
    { name: "Mast", latDeg: 40.01, lonDeg: -3.98 },
    { name: "Far", latDeg: 41, lonDeg: -3.98 },
    { ...a },
  ]);
  const words = drawing.marks.flatMap((mark) => (mark.kind === "text" ? [mark.text] : []));
  expect(words).toEqual(expect.arrayContaining(["West", "East", "Mast", "2 km", "N"]));
  expect(words.filter((word) => word === "West")).toHaveLength(1);
  expect(words).not.toContain("Far");
  const path = drawing.marks.find((mark) => mark.kind === "line" && mark.weight === 2.5)!;
  if (path.kind !== "line") throw new Error("the path is no line");
  expect(path.from[0]).toBeLessThan(path.to[0]);
  expect((path.to[0] - path.from[0]) / 320).toBeCloseTo(1 / 1.6, 2);
});
