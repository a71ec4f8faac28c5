import type { Place } from "#core/geodesy";
import { arraySurface, type GridFrame, type Surface } from "#core/terrain";
import { fractalNoise, latticeNoise } from "./random";

const { abs, exp, hypot, max, min } = Math;

/** Isla Orvena's extent, km, and its south-west corner, far out in the ocean. */
export const ISLAND_KM = { east: 18, north: 13 };
const SOUTH_WEST: Place = { latDeg: -37.66, lonDeg: -30.3 };
const KM_PER_DEG_LAT = 111.0;
const KM_PER_DEG_LON = 88.2;

/** Cells of about 30 m. */
const ISLAND_FRAME: GridFrame = {
  westDeg: SOUTH_WEST.lonDeg,
  northDeg: SOUTH_WEST.latDeg + ISLAND_KM.north / KM_PER_DEG_LAT,
  cellLonDeg: ISLAND_KM.east / KM_PER_DEG_LON / 600,
  cellLatDeg: ISLAND_KM.north / KM_PER_DEG_LAT / 433,
  columns: 600,
  rows: 433,
};

/** A place by kilometres east and north of the island's south-west corner. */
export function islandPlace(eastKm: number, northKm: number): Place {
  const round = (deg: number) => Math.round(deg * 1e6) / 1e6;
  return {
    latDeg: round(SOUTH_WEST.latDeg + northKm / KM_PER_DEG_LAT),
    lonDeg: round(SOUTH_WEST.lonDeg + eastKm / KM_PER_DEG_LON),
  };
}

const bump = (distance: number, radius: number) => exp(-((distance / radius) ** 2));
const clamp01 = (t: number) => min(1, max(0, t));
const smooth = (t: number) => clamp01(t) ** 2 * (3 - 2 * clamp01(t));

/** Ridge line from south-west to north-east, with its two saddles. */
function spineHeightM(x: number, y: number): number {
  const [x0, y0, dx, dy] = [4.6, 2.6, 9, 8];
  const length = hypot(dx, dy);
  const along = ((x - x0) * dx + (y - y0) * dy) / length ** 2;
  const across = abs((x - x0) * dy - (y - y0) * dx) / length;
  const ends = smooth((along + 0.12) / 0.3) * smooth((1.12 - along) / 0.3);
  const saddles = 1 - 0.97 * bump(along - 0.5, 0.17) - 0.35 * bump(along - 0.86, 0.05);
  return 690 * ends * saddles * (0.75 * bump(across, 0.95) + 0.25 * bump(across, 1.9));
}

/** Ground height before the sea is laid in, m; negative is under water. */
function landHeightM(x: number, y: number, noise: (x: number, y: number) => number): number {
  const rough = fractalNoise(noise, x * 0.9, y * 0.9, 6);
  const radius = hypot((x - 9) / 8.2, (y - 6.5) / 5.8);
  const inland = 1 - radius + 0.1 * fractalNoise(noise, x * 0.5 + 40, y * 0.5, 4);
  let height =
    inland * 110 + spineHeightM(x, y) * (1 + 0.16 * rough) * smooth(inland * 5) + 45 * rough * smooth(inland * 6);
  // Flat farmland in the east.
  const plain = smooth((x - 12.2) / 1.2) * smooth((y - 3.6) / 0.8) * smooth((8.6 - y) / 0.8) * smooth(inland * 8);
  height += (22 + 5 * rough - height) * plain * 0.92;
  // Quarry hill in the north-east, lighthouse head in the west, the bay between head and island.
  height += 300 * bump(hypot(x - 16.5, y - 7.9), 0.8);
  height -= 130 * bump(hypot(x - 2.5, y - 5.5), 0.65);
  height += 185 * bump(hypot(x - 0.95, y - 5.3), 0.6);
  // Cliffs in the north.
  const north = smooth((y - 9.2) / 1.4);
  if (height > 0) height += (max(height, 55 * smooth(height / 6)) - height) * north;
  // Drowned crater in the south: a rim, a floor under the sea, a breach to open water.
  const crater = hypot(x - 9.6, y - 1.9);
  height += 95 * bump(crater - 1.05, 0.32) * smooth(inland * 10 + 0.4);
  height -= 260 * bump(crater, 0.72);
  height -= 300 * bump(x - 9.7, 0.22) * smooth((1.7 - y) / 0.4);
  // Terraces in the west.
  if (x < 7 && height > 35 && height < 260) {
    const step = Math.floor(height / 11) * 11;
    height = step + 11 * smooth((height - step - 6.5) / 4.5);
  }
  return height;
}

/** Sites and houses stand on levelled ground that the noise must not lift or drown. */
const LEVELLED: { x: number; y: number; radiusKm: number; heightM: number }[] = [
  { x: 13.6, y: 2.7, radiusKm: 0.12, heightM: 6 },
  { x: 0.95, y: 5.3, radiusKm: 0.1, heightM: 151 },
  { x: 16.5, y: 7.9, radiusKm: 0.08, heightM: 238 },
];

/** The generated island: ground and cover, the same bytes for the same seed. `fineness` divides the cells. */
export function islandSurface(seed = 7, fineness = 1): Surface {
  const frame: GridFrame = {
    ...ISLAND_FRAME,
    cellLonDeg: ISLAND_FRAME.cellLonDeg / fineness,
    cellLatDeg: ISLAND_FRAME.cellLatDeg / fineness,
    columns: ISLAND_FRAME.columns * fineness,
    rows: ISLAND_FRAME.rows * fineness,
  };
  const { columns, rows } = frame;
  const noise = latticeNoise(seed);
  const groundAmslM = new Float32Array(columns * rows);
  const coverM = new Float32Array(columns * rows);
  const code = new Uint8Array(columns * rows);
  let highest = 0;
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const x = ((column + 0.5) / columns) * ISLAND_KM.east;
      const y = (1 - (row + 0.5) / rows) * ISLAND_KM.north;
      const height = landHeightM(x, y, noise);
      groundAmslM[row * columns + column] = height;
      if (height > highest) highest = height;
    }
  }
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const i = row * columns + column;
      const x = ((column + 0.5) / columns) * ISLAND_KM.east;
      const y = (1 - (row + 0.5) / rows) * ISLAND_KM.north;
      let height = (groundAmslM[i]! * 640) / highest;
      for (const spot of LEVELLED) {
        const near = smooth(2 - hypot(x - spot.x, y - spot.y) / spot.radiusKm);
        height += (spot.heightM - height) * near;
      }
      groundAmslM[i] = max(0, Math.round(height * 10) / 10);
      [code[i], coverM[i]] = height <= 0 ? [1, 0] : coverAt(x, y, height, noise);
    }
  }
  return arraySurface(frame, groundAmslM, { heightM: coverM, code });
}

/** Cover code and height, m, of a land cell. */
function coverAt(
  x: number,
  y: number,
  heightM: number,
  noise: (x: number, y: number) => number,
): [code: number, heightM: number] {
  const grain = noise(x * 9, y * 9);
  const town = hypot(x - 12.75, y - 3.3);
  if (town < 0.75 + 0.15 * grain && grain > -0.45) return [4, Math.round((7.5 + 2 * grain) * 2) / 2];
  const wood = fractalNoise(noise, x * 0.8 + 90, y * 0.8 + 30, 3);
  const planted = hypot(x - 5.3, y - 7.7) < 0.72 + 0.35 * noise(x * 1.7 + 5, y * 1.7);
  if (planted || (wood > 0.13 && heightM > 90 && heightM < 430 && x > 2.2 && x < 13))
    return [2, Math.round((14 + 2 * grain) * 2) / 2];
  const vineyard = x > 3.1 && x < 5.6 && y > 3.6 && y < 6.4;
  if (vineyard && (abs((x % 0.24) - 0.12) < 0.016 || abs((y % 0.36) - 0.18) < 0.016)) return [3, 7];
  return [0, 0];
}
