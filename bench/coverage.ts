// How true and how fast a coverage is: against full path answers with all that a customer hears, over every sector of the demo, and
// against the same sweep in plain C where a compiler is at hand.
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { climateOf } from "#core/climate";
import {
  cellBearings,
  cellPlace,
  classify,
  clientEnd,
  COVERAGE_REASONS,
  customerHears,
  downRise,
  gridAround,
  heardInCells,
  HeardField,
  lossTable,
  newCells,
  newSwept,
  RayPoints,
  raySpacingKm,
  raysOf,
  sectorRiseDb,
  sideOf,
  sweep,
  sweepRay,
  SweepScratch,
  usualClient,
  weatherTable,
  withPattern,
} from "#core/coverage";
import { inverseGeodesic, type Place } from "#core/geodesy";
import { hearingAt, listeningIn } from "#core/interference";
import { answerLink, wantedMarginDb } from "#core/link";
import { endOf, linksOn, worldOf, type World } from "#core/plan";
import { freeSpaceLossDb } from "#core/propagation";
import { coverDensity, isTrees, plainTerrain, profileScratch, sampleProfile, type Terrain } from "#core/terrain";
import { demoPlan, islandSurface, largeSibling } from "#demo";

const RADIUS_M = 12_000;
const CELL_M = 30;
const TURNS = 9;

const surface = islandSurface();
const terrain = plainTerrain(surface);
const world = worldOf(demoPlan(surface));
const first = [...world.radios.values()].find(({ role, siteId }) => role === "sector" && siteId !== null)!;
const grid = gridAround(endOf(world, first.id).place, RADIUS_M, CELL_M);
const side = sideOf(grid);
const ask = { txHeightM: 20, rxHeightM: 6, frequencyGHz: 5.6, kFactor: world.plan.kFactor, season: world.plan.season };

const timed = (work: () => void) => {
  const start = performance.now();
  work();
  return performance.now() - start;
};
const median = (values: number[]) => [...values].sort((x, y) => x - y)[values.length >> 1]!;

const losses = newSwept(grid);
const points = new RayPoints(grid, raySpacingKm(terrain, grid));
const scratch = new SweepScratch(points);
/** Reads and sweeps all rays: what either took, ms. */
function swept(): { readMs: number; sweepMs: number } {
  let [readMs, sweepMs] = [0, 0];
  for (let ray = 0; ray < raysOf(grid); ray++) {
    readMs += timed(() => points.read(terrain, ray));
    sweepMs += timed(() => sweepRay(points, ask, losses, scratch));
  }
  return { readMs, sweepMs };
}
for (let i = 0; i < 4; i++) swept();

/** What the rays read, as bench/sweep.c takes it. */
function raysInFull(): Float64Array {
  const parts: Float64Array[] = [];
  for (let ray = 0; ray < raysOf(grid); ray++) {
    points.read(terrain, ray);
    const { line, trees, near, count, receivers } = points;
    const nears = Array.from({ length: receivers }, (_, i) =>
      Array.from({ length: near.counts[i]! }, (__, k) => (near.back.length / near.counts.length) * i + k),
    ).flat();
    const of = (values: ArrayLike<number>, many: number) => Array.from({ length: many }, (_, i) => values[i]!);
    const at = (values: ArrayLike<number>) => nears.map((i) => values[i]!);
    parts.push(
      Float64Array.from([
        ...[count, receivers, trees.count, nears.length],
        ...of(line.groundAmslM, count),
        ...of(line.coverHeightM, count),
        ...of(line.coverCode, count).map((code) => Number(isTrees(code))),
        ...of(points.at, receivers),
        ...of(points.groundM, receivers),
        ...of(points.lineEnds, receivers),
        ...of(points.ownBack, receivers),
        ...of(near.counts, receivers),
        ...of(points.cell, receivers),
        ...of(trees.from, trees.count),
        ...of(trees.to, trees.count),
        ...of(trees.heightM, trees.count),
        ...of(trees.code, trees.count).map(coverDensity),
        ...at(near.back),
        ...at(near.topM),
        ...at(near.underM),
      ]),
    );
  }
  const all = new Float64Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

const folder = mkdtempSync(join(tmpdir(), "tejado-"));
const program = join(folder, "sweep");
const file = join(folder, "rays");
const hasC =
  spawnSync("cc", ["-O2", "-fno-tree-vectorize", "-o", program, join("bench", "sweep.c"), "-lm"]).status === 0;
if (hasC) writeFileSync(file, raysInFull());
/** The same sweep in C: best of seven runs, ms, and the mean of its losses. */
function inC(): { ms: number; meanDb: number } {
  const given = [points.spacingKm, ask.txHeightM, ask.rxHeightM, ask.frequencyGHz, side * side].map(String);
  const [ms, meanDb] = spawnSync(program, [file, ...given])
    .stdout.toString()
    .split(" ")
    .map(Number);
  return { ms: ms!, meanDb: meanDb! };
}

// In turns, so that a machine that changes its pace changes both alike; each by its best, which noise lengthens least.
const turns = Array.from({ length: TURNS }, () => {
  const runs = Array.from({ length: 3 }, swept);
  return {
    readMs: Math.min(...runs.map(({ readMs }) => readMs)),
    sweepMs: Math.min(...runs.map(({ sweepMs }) => sweepMs)),
    inC: hasC ? inC() : null,
  };
});
rmSync(folder, { recursive: true, force: true });
const known = losses.lossDb.filter((value) => value === value);
console.log(
  `One site, ${RADIUS_M / 1000} km, cells of ${CELL_M} m: ${known.length} of ${side * side} cells over known ground\n`,
);
console.log(`rays read, one thread    ${median(turns.map(({ readMs }) => readMs)).toFixed(0)} ms`);
console.log(`sweep, one thread        ${median(turns.map(({ sweepMs }) => sweepMs)).toFixed(0)} ms`);
const compiled = turns.flatMap(({ sweepMs, inC: c }) => (c ? [{ ratio: sweepMs / c.ms, ...c }] : []));
if (compiled.length > 0) {
  const mean = known.reduce((sum, value) => sum + value, 0) / known.length;
  console.log(`the same in C, scalar    ${median(compiled.map(({ ms }) => ms)).toFixed(0)} ms`);
  console.log(`ratio a core             ${median(compiled.map(({ ratio }) => ratio)).toFixed(2)} (bound 1.5)`);
  console.log(`means differ by          ${Math.abs(mean - compiled[0]!.meanDb).toFixed(4)} dB`);
} else console.log("no compiler at hand: not held against C");

let seed = 12345;
const random = () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed / 2 ** 32);
const room = profileScratch(8192);
const HELD = COVERAGE_REASONS.indexOf("held");
const NOISE = COVERAGE_REASONS.indexOf("noise");

/** Truth: random cells round sectors by full path answers to the usual customer, with all that he and his sector hear. */
function heldAgainstAnswers(name: string, of: World, over: Terrain, sectorIds: readonly string[], cellsEach: number) {
  const errors: number[] = [];
  const sinrErrors: number[] = [];
  const riseErrors: number[] = [];
  const risesDb: number[] = [];
  let [wrong, compared, askedCells, hearMs] = [0, 0, 0, 0];
  const exact = (from: Place, to: Place) => sampleProfile(over, from, to, undefined, room);
  // As the pool's workers look at those who only disturb.
  const coarse = (from: Place, to: Place) => {
    const line = inverseGeodesic(from, to);
    return sampleProfile(over, from, to, Math.max(30, line.distanceM / 96), room, line);
  };
  const listening = listeningIn(of);
  for (const id of sectorIds) {
    const sector = of.radios.get(id)!;
    const kit = usualClient(of, sector)!;
    const near = endOf(of, id);
    const own = gridAround(near.place, 6000, CELL_M);
    const frequencyGHz = sector.frequencyMHz / 1000;
    const paths = newSwept(own);
    sweep(
      own,
      (look) => look(over),
      { ...ask, txHeightM: sector.heightM, rxHeightM: kit.heightM, frequencyGHz },
      paths,
    );
    const total = new Float32Array(paths.lossDb.length);
    withPattern(
      paths,
      cellBearings(own),
      {
        antenna: near.antenna,
        polarization: sector.polarization,
        azimuthDeg: sector.azimuthDeg ?? 0,
        mechanicalTiltDownDeg: sector.tiltDownDeg ?? 0,
      },
      total,
    );
    const table = lossTable(of, sector, kit);
    const { rainRate001MmPerH } = climateOf(of.plan, near.place.latDeg);
    const weather = weatherTable(of.plan, sector, rainRate001MmPerH, 6);
    const marginDb = wantedMarginDb(of.plan, sector.frequencyMHz);
    const [link] = linksOn(of, id);
    const heard = link ? hearingAt(listening, link, id, exact).noise : null;
    const upRiseDb = sectorRiseDb(of, sector, table, heard);
    const cells = newCells(own);
    classify(own, paths, total, table, weather, marginDb, { downRiseDb: null, upRiseDb }, cells);
    const isWanted = (cell: number) => cells.reason[cell] === HELD || cells.reason[cell] === NOISE;
    const field = new HeardField(own, table.downNoise.dbm - table.downNoise.riseDb);
    const hears = customerHears(of, sector, kit, coarse);
    hearMs += timed(() => {
      for (let cellsAsked = field.asked(isWanted); cellsAsked.length > 0; cellsAsked = field.asked(isWanted)) {
        field.take(cellsAsked, heardInCells(hears, own, cellsAsked));
        askedCells += cellsAsked.length;
      }
    });
    const downRiseDb = downRise(table.downNoise, null, field.laidOut(isWanted));
    classify(own, paths, total, table, weather, marginDb, { downRiseDb, upRiseDb }, cells);
    const far = clientEnd(of, sector, kit);
    const hearsExactly = customerHears(of, sector, kit, exact);
    const ownSide = sideOf(own);
    for (let n = 0; n < cellsEach; n++) {
      const [column, row] = [Math.floor(random() * ownSide), Math.floor(random() * ownSide)];
      const cell = row * ownSide + column;
      const told = paths.lossDb[cell]!;
      const place = cellPlace(own, column, row);
      if (told !== told) continue;
      const there = isWanted(cell) || random() < 0.2 ? hearsExactly(place) : null;
      const profile = exact(near.place, place);
      if (profile.holes || profile.distanceM < 2 * CELL_M) continue;
      const { path } = answerLink({
        ...{ plan: of.plan, kind: "access", foliageDepthM: null, a: near, b: { ...far, place }, profile },
        ...(there ? { heard: { a: heard ?? { dbm: null, radios: [], faintCount: 0 }, b: there } } : {}),
      });
      if (!path) continue;
      const freeDb = freeSpaceLossDb({ distanceKm: profile.distanceM / 1000, frequencyGHz });
      errors.push(Math.abs(told - freeDb - path.diffractionDb - path.trees.lossDb));
      if (!there) continue;
      const isHeld = [path.aToB, path.bToA].every(
        ({ rateMbps, marginLeftDb }) => rateMbps > 0 && marginLeftDb >= marginDb,
      );
      compared += isWanted(cell) ? 1 : 5;
      if (isHeld !== (cells.reason[cell] === HELD)) wrong += isWanted(cell) ? 1 : 5;
      if (!isWanted(cell)) continue;
      sinrErrors.push(Math.abs(cells.sinrDb[cell]! - Math.min(path.aToB.snrDb, path.bToA.snrDb)));
      riseErrors.push(Math.abs(downRiseDb![cell]! - path.aToB.noise.riseDb));
      risesDb.push(path.aToB.noise.riseDb);
    }
  }
  const share = (all: number[], db: number) =>
    `${((100 * all.filter((one) => one <= db).length) / all.length).toFixed(1)} %`;
  console.log(`\n${name}: ${sectorIds.length} sectors at their own heights and kits, ${errors.length} cells`);
  console.log(`path losses within 1 dB ${share(errors, 1)} (95), within 3 dB ${share(errors, 3)} (99)`);
  console.log(
    `SINR of ${sinrErrors.length} cells that are served but for others: within 1 dB ${share(sinrErrors, 1)}, 3 dB ${share(sinrErrors, 3)}`,
  );
  console.log(
    `noise at their customers through the plan's other transmitters: ${median(risesDb).toFixed(1)} dB over thermal in the median; within 1 dB ${share(riseErrors, 1)}, 3 dB ${share(riseErrors, 3)}`,
  );
  console.log(`served or unserved wrongly ${((100 * wrong) / compared).toFixed(2)} % of cells (0.5)`);
  console.log(
    `what is heard: ${Math.round(askedCells / sectorIds.length)} places asked a sector, ${(hearMs / sectorIds.length).toFixed(0)} ms on one thread`,
  );
}
const sectorsOf = (of: World) =>
  [...of.radios.values()].filter(({ role, siteId }) => role === "sector" && siteId !== null).map(({ id }) => id);
heldAgainstAnswers("The demo", world, terrain, sectorsOf(world), 12_000);
const large = largeSibling(167);
const largeWorld = worldOf(large.rows);
heldAgainstAnswers(
  "Its large sibling, 10 020 customers",
  largeWorld,
  plainTerrain(large.surface),
  sectorsOf(largeWorld).filter((_, i) => i % 20 === 0),
  3000,
);

// What a dragged heading costs: pattern, tapes' tables and classes laid over losses that are there.
const kit = usualClient(world, first)!;
const near = endOf(world, first.id);
const bearings = cellBearings(grid);
const total = new Float32Array(losses.lossDb.length);
const cells = newCells(grid);
const table = lossTable(world, first, kit);
const noise = { downRiseDb: new Float32Array(losses.lossDb.length).fill(3), upRiseDb: 2 };
const weather = weatherTable(world.plan, first, 30, RADIUS_M / 1000);
let azimuthDeg = 0;
const pattern = () =>
  withPattern(
    losses,
    bearings,
    {
      antenna: near.antenna,
      polarization: first.polarization,
      azimuthDeg: (azimuthDeg = (azimuthDeg + 7) % 360),
      mechanicalTiltDownDeg: 2,
    },
    total,
  );
const whole = () => {
  pattern();
  classify(grid, losses, total, table, weather, 6, noise, cells);
};
for (let i = 0; i < 10; i++) whole();
console.log(
  `\na dragged heading, ${side * side} cells: pattern ${median(Array.from({ length: 20 }, () => timed(pattern))).toFixed(1)} ms, with levels, noise and classes ${median(Array.from({ length: 20 }, () => timed(whole))).toFixed(1)} ms (100 at the eye)`,
);
console.log(
  `tables of the tapes for another power: ${median(Array.from({ length: 9 }, () => timed(() => void lossTable(world, first, kit)))).toFixed(1)} ms`,
);
