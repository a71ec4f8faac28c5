import { expect, test } from "@jest/globals";
import { valleySurface } from "#core/testing";
import {
  cutTiles,
  groundIn,
  overviewFrame,
  readGround,
  sampleProfile,
  tilesAcross,
  UNREAD,
  UnreadGround,
  type Surface,
} from "#core/terrain";
import { encodeTile, groundOver, shareTiles, type PackedTile, type SharedGround } from "#ground";

const surface = valleySurface(30);
const packed = (of: Surface): PackedTile[] =>
  [...cutTiles(of)].map(({ tileColumn, tileRow, tile }) => ({
    index: tileRow * tilesAcross(of.frame) + tileColumn,
    data: encodeTile(tile),
  }));
const shared = (tiles = packed(surface)): SharedGround => ({
  rasters: [{ kind: "bare", whole: shareTiles(surface.frame, tiles), overview: null }],
  areas: [],
});
const [from, to] = [
  { latDeg: -1, lonDeg: 20.005 },
  { latDeg: -1.01, lonDeg: 20.09 },
];
const unread = ({ rasters }: SharedGround) =>
  rasters[0]!.whole.surface.starts.filter((start) => start === UNREAD).length;
const heightAt = (ground: ReturnType<typeof groundOver>, latDeg: number, lonDeg: number) =>
  ground.read((terrain) => {
    const sample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
    readGround(terrain, latDeg, lonDeg, sample);
    return sample.groundAmslM;
  });

test("a profile over packed tiles is the one over the surface that they were cut from, and unpacks only what it crosses", () => {
  const ground = shared();
  const all = unread(ground);
  const profile = groundOver(ground).read((terrain) => sampleProfile(terrain, from, to));
  const whole = sampleProfile({ layers: [{ surface, kind: "bare" }], areas: null }, from, to);
  // On the seams of tiles the same four heights are weighed in another order.
  profile.groundAmslM.forEach((height, i) => expect(height).toBeCloseTo(whole.groundAmslM[i]!, 9));
  expect(profile.groundAmslM).toHaveLength(whole.groundAmslM.length);
  expect(unread(ground)).toBeGreaterThan(0);
  expect(unread(ground)).toBeLessThan(all);
});

test("what one reader unpacks the others have, and a clone of the ground lies on the same memory", () => {
  const ground = shared();
  groundOver(ground).read((terrain) => sampleProfile(terrain, from, to));
  const left = unread(ground);
  const other = structuredClone(ground);
  expect(unread(other)).toBe(left);
  heightAt(groundOver(other), -0.985, 20.12);
  expect(unread(ground)).toBeLessThan(left);
});

test("a tile that is missing is a hole, and one that is damaged is no ground", () => {
  const tiles = packed(surface);
  const holed = groundOver(shared(tiles.filter(({ index }) => index !== 0)));
  const place = { latDeg: surface.frame.northDeg - 0.001, lonDeg: surface.frame.westDeg + 0.001 };
  expect(heightAt(holed, place.latDeg, place.lonDeg)).toBeNaN();
  const damaged = tiles.map((tile) => (tile.index === 0 ? { ...tile, data: tile.data.slice(0, 20) } : tile));
  expect(() => heightAt(groundOver(shared(damaged)), place.latDeg, place.lonDeg)).toThrow();
});

test("a reader for whom no slot is left goes on with arrays of its own, and disturbs nobody", () => {
  const ground = shared();
  const { whole } = ground.rasters[0]!;
  whole.taken[0] = 1e6;
  const full = whole.surface.groundAmslM.slice();
  const reader = groundOver(ground);
  expect(heightAt(reader, -1, 20.02)).toBeCloseTo(groundIn(surface, 0, 0), 3);
  expect(heightAt(reader, -1, 20.09)).toBeCloseTo(groundIn(surface, 0, 0), 3);
  expect(whole.surface.groundAmslM).toEqual(full);
  expect(reader.terrain.layers[0]!.surface.starts).not.toBe(whole.surface.starts);
});

test("a raster's overview is unpacked by itself", () => {
  const large = { ...surface.frame, columns: 5000, rows: 3000 };
  const tile = [...cutTiles(surface)][0]!.tile;
  const overview = shareTiles(overviewFrame(large), [{ index: 0, data: encodeTile(tile) }]);
  const reader = groundOver({ rasters: [{ kind: "bare", whole: shareTiles(large, []), overview }], areas: [] });
  const coarse = reader.read(({ layers }) => groundIn(layers[0]!.surface.overview!, 3, 3));
  expect(coarse).toBeCloseTo(tile.groundAmslM[3 * 128 + 3]!, 3);
});

test("the ground of somebody else is not unpacked for ever", () => {
  const other = groundOver(shared()).terrain;
  const reader = groundOver(shared());
  expect(() => reader.read(() => sampleProfile(other, from, to))).toThrow(UnreadGround);
});
