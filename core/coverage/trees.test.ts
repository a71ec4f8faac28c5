import { expect, test } from "@jest/globals";
import { gridAround, gridExtent, newSwept, sideOf, sweep } from "#core/coverage";
import { treesLossDb } from "#core/link";
import { arraySurface, coverCode, plainTerrain, type CoverKind } from "#core/terrain";
import { RayTrees } from "./trees";

const grid = gridAround({ latDeg: 38, lonDeg: 20 }, 1200, 30);
const side = sideOf(grid);
const at = (east: number, south: number) => (grid.rings + south) * side + grid.rings + east;
const [westDeg, , , northDeg] = gridExtent(grid);
/** Flat ground whose raster has the grid's own cells. */
const flatGround = () => ({
  groundAmslM: new Float32Array(side * side).fill(100),
  heightM: new Float32Array(side * side),
  code: new Uint8Array(side * side),
});
const FRAME = {
  westDeg,
  northDeg,
  cellLonDeg: grid.cellLonDeg,
  cellLatDeg: grid.cellLatDeg,
  columns: side,
  rows: side,
};
function swept({ groundAmslM, ...cover }: ReturnType<typeof flatGround>, season: "inLeaf" | "bare" = "inLeaf") {
  const terrain = plainTerrain(arraySurface(FRAME, groundAmslM, cover));
  const losses = newSwept(grid);
  const ask = { txHeightM: 15, rxHeightM: 6, frequencyGHz: 5.6, kFactor: 4 / 3, season };
  sweep(grid, (look) => look(terrain), ask, losses);
  return losses;
}
/** What a sweep says of the cell 30 east of the transmitter, over flat ground with a line of cover across the way. */
function behind(
  cover: { from: number; to: number; heightM: number; kind: CoverKind; density?: number },
  { season = "inLeaf" as "inLeaf" | "bare", hillM = 0 } = {},
) {
  const ground = flatGround();
  for (let south = -grid.rings; south <= grid.rings; south++) {
    for (let east = cover.from; east <= cover.to; east++) {
      ground.heightM[at(east, south)] = cover.heightM;
      ground.code[at(east, south)] = coverCode(cover.kind, cover.density);
    }
    ground.groundAmslM[at(5, south)]! += hillM;
  }
  const losses = swept(ground, season);
  const cell = at(30, 0);
  const [inLeafShare, woodShare] = [losses.inLeafShare[cell]!, losses.woodShare[cell]!];
  return { treesDb: losses.treesDb[cell]!, diffractionDb: losses.diffractionDb[cell]!, inLeafShare, woodShare };
}
const row = { from: 15, to: 15, heightM: 40, kind: "wood" as const };

test("a row of trees that alone cuts the line is gone through, as a full answer has it", () => {
  const { treesDb, diffractionDb } = behind(row);
  expect(treesDb).toBeCloseTo(treesLossDb(5.6, 30, 1, "inLeaf"), 3);
  expect(diffractionDb).toBeCloseTo(treesDb, 5);
  // Buildings of the same height are not gone through: the signal bends over them, and loses more.
  const walls = behind({ ...row, kind: "building" });
  expect(walls.treesDb).toBe(0);
  expect(walls.diffractionDb).toBeGreaterThan(treesDb + 5);
});

test("two rows are twice as deep, thin ones count by their density, and bare ones take less unless they keep their leaves", () => {
  expect(behind({ ...row, to: 16 }).treesDb).toBeCloseTo(treesLossDb(5.6, 60, 1, "inLeaf"), 3);
  expect(behind({ ...row, density: 0.5 }).treesDb).toBeCloseTo(treesLossDb(5.6, 15, 1, "inLeaf"), 3);
  expect(behind(row, { season: "bare" }).treesDb).toBeCloseTo(treesLossDb(5.6, 30, 1, "bare"), 3);
  expect(behind({ ...row, kind: "evergreen" }, { season: "bare" }).treesDb).toBeCloseTo(
    treesLossDb(5.6, 30, 0, "bare"),
    3,
  );
});

test("each cell knows what share of its trees stands in leaf, and how far off the wood is in which the signal runs farthest", () => {
  expect(behind(row)).toMatchObject({ inLeafShare: 1, woodShare: 0.5 });
  expect(behind(row, { season: "bare" }).inLeafShare).toBe(0);
  expect(behind({ ...row, kind: "evergreen" }, { season: "bare" }).inLeafShare).toBe(1);
  expect(behind({ ...row, to: 16 }).woodShare).toBeCloseTo(15.5 / 30, 6);
});

test("over a deep wood the signal bends, and where the ground itself cuts the line trees are not gone through", () => {
  const low = behind({ from: 3, to: 27, heightM: 12, kind: "wood" });
  expect(low.treesDb).toBe(0);
  expect(low.diffractionDb).toBeGreaterThan(0);
  expect(behind(row, { hillM: 30 }).treesDb).toBe(0);
});

test("what the ground under the trees still takes is added", () => {
  // The hill's top stands just under the line.
  const { treesDb, diffractionDb } = behind(row, { hillM: 13 });
  expect(treesDb).toBeCloseTo(treesLossDb(5.6, 30, 1, "inLeaf"), 3);
  expect(diffractionDb).toBeGreaterThan(treesDb + 2);
});

test("trees in the cell before the customer's own count whole, those in his own cell not", () => {
  expect(behind({ ...row, from: 29, to: 29 }).treesDb).toBeCloseTo(treesLossDb(5.6, 30, 1, "inLeaf"), 1);
  expect(behind({ ...row, from: 30, to: 30 })).toMatchObject({ treesDb: 0, diffractionDb: 0 });
});

test("of a stretch the part counts on which the ray runs over the ground and below the tops, beyond what stands right at both ends", () => {
  const trees = new RayTrees(82);
  const flat = new Float64Array(41);
  const depthDb = (metres: number, leafyShare = 1) => treesLossDb(5.6, metres, leafyShare, "bare");
  const through = (end: number, txM: number, slope: number, bares = flat) =>
    trees.lossDb(bares, end, txM, slope, 20, 5.6, "bare");
  trees.add(9.5, 12.25, coverCode("wood"), 10);
  expect(through(30, 5, 0)).toBeCloseTo(depthDb(2.75 * 20), 9);
  // From 20 m down by one a step the ray is below 10 m from the tenth step on.
  expect(through(30, 20, -1)).toBeCloseTo(depthDb(2.25 * 20), 9);
  // What a receiver stands in is his own: up to so far and no farther.
  expect(through(11.75, 5, 0)).toBeCloseTo(depthDb(2.25 * 20), 9);
  const rising = Float64Array.from(flat, (_, step) => (step <= 11 ? 0 : 12 * (step - 11)));
  expect(through(30, 6, 0, rising)).toBeCloseTo(depthDb(2 * 20), 9);
  trees.add(14, 15, coverCode("evergreen", 0.5), 10);
  expect(through(30, 5, 0)).toBeCloseTo(depthDb(65, 1 - 10 / 65), 9);
  trees.count = 0;
  trees.add(0, 2.5, coverCode("wood"), 10);
  expect(through(30, 5, 0)).toBeCloseTo(depthDb(2.25 * 20), 9);
  expect(trees.add(3, 4, coverCode("building"), 10)).toBe(false);
});

test("a low house next to the customer is in his way, though a taller one stands behind it", () => {
  const lossWith = (houses: Record<number, number>) => {
    const ground = flatGround();
    for (const [east, heightM] of Object.entries(houses)) {
      ground.heightM[at(Number(east), 0)] = heightM;
      ground.code[at(Number(east), 0)] = coverCode("building");
    }
    return swept(ground).diffractionDb[at(30, 0)]!;
  };
  const far = lossWith({ 28: 9 });
  expect(far).toBeGreaterThan(10);
  expect(lossWith({ 28: 9, 29: 8.5 })).toBeGreaterThan(far + 2);
  // Under the line it still narrows the zone.
  expect(lossWith({ 29: 5.9 })).toBeGreaterThan(lossWith({ 29: 3 }) + 1);
});
