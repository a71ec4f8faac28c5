// How true and how fast a coverage is: against full path answers, and against the same sweep in plain C where a compiler is at hand.
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import {
  cellBearings,
  cellPlace,
  classify,
  gridAround,
  lossTable,
  newCells,
  newSwept,
  readGrid,
  sideOf,
  sweep,
  usualClient,
  weatherTable,
  withPattern,
} from "#core/coverage";
import { answerLink, obstructionHeightsM } from "#core/link";
import { endOf, linkEnds, worldOf } from "#core/plan";
import { bullingtonLossDb, freeSpaceLossDb } from "#core/propagation";
import { plainTerrain, profileScratch, sampleProfile } from "#core/terrain";
import { demoPlan, islandSurface } from "#demo";

const RADIUS_M = 12_000;
const CELL_M = 30;
const COMPARED = 30_000;
const TURNS = 9;

const surface = islandSurface();
const terrain = plainTerrain(surface);
const world = worldOf(demoPlan(surface));
const link = [...world.links.values()].find(({ kind }) => kind === "access")!;
const { a, b } = linkEnds(world, link);
const grid = gridAround(a.place, RADIUS_M, CELL_M);
const side = sideOf(grid);
const ask = { txHeightM: 20, rxHeightM: 6, frequencyGHz: 5.6, kFactor: world.plan.kFactor, season: world.plan.season };

const timed = (work: () => void) => {
  const start = performance.now();
  work();
  return performance.now() - start;
};
const median = (values: number[]) => [...values].sort((x, y) => x - y)[values.length >> 1]!;

const ground = readGrid(terrain, grid);
const readMs = median(Array.from({ length: 5 }, () => timed(() => void readGrid(terrain, grid))));
const losses = newSwept(grid);
for (let i = 0; i < 5; i++) sweep(grid, ground, ask, losses);

/** The same sweep in C: best of seven runs, ms, and the mean of its losses; null without a compiler. */
function inC(): { ms: number; meanDb: number } | null {
  const folder = mkdtempSync(join(tmpdir(), "tejado-"));
  try {
    const program = join(folder, "sweep");
    const source = join("bench", "sweep.c");
    const built = spawnSync("cc", ["-O2", "-fno-tree-vectorize", "-o", program, source, "-lm"]);
    if (built.status !== 0) return null;
    const file = join(folder, "ground");
    writeFileSync(
      file,
      Buffer.concat(
        [ground.groundAmslM, ground.coverHeightM, ground.coverCode].map(({ buffer }) => Buffer.from(buffer)),
      ),
    );
    const { rings, cellNorthKm } = grid;
    const { txHeightM, rxHeightM, frequencyGHz } = ask;
    const given = [rings, cellNorthKm, txHeightM, rxHeightM, frequencyGHz].map(String);
    const [ms, meanDb] = spawnSync(program, [file, ...given])
      .stdout.toString()
      .split(" ")
      .map(Number);
    return { ms: ms!, meanDb: meanDb! };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

// In turns, so that a machine that changes its pace changes both alike; each by its best, which noise lengthens least.
const turns = Array.from({ length: TURNS }, () => ({
  here: Math.min(...Array.from({ length: 7 }, () => timed(() => sweep(grid, ground, ask, losses)))),
  inC: inC(),
}));
const known = losses.lossDb.filter((value) => value === value);
console.log(
  `One site, ${RADIUS_M / 1000} km, cells of ${CELL_M} m: ${known.length} of ${side * side} cells over known ground\n`,
);
console.log(`ground read into cells   ${readMs.toFixed(0)} ms`);
console.log(`sweep, one thread        ${median(turns.map(({ here }) => here)).toFixed(0)} ms`);
const compiled = turns.flatMap(({ here, inC: c }) => (c ? [{ ratio: here / c.ms, ...c }] : []));
if (compiled.length > 0) {
  const mean = known.reduce((sum, value) => sum + value, 0) / known.length;
  console.log(`the same in C, scalar    ${median(compiled.map(({ ms }) => ms)).toFixed(0)} ms`);
  console.log(`ratio a core             ${median(compiled.map(({ ratio }) => ratio)).toFixed(2)} (bound 1.5)`);
  console.log(`means differ by          ${Math.abs(mean - compiled[0]!.meanDb).toFixed(4)} dB`);
} else console.log("no compiler at hand: not held against C");

// Truth: the same cells by full path answers.
const scratch = profileScratch(8192);
const errors = { diffraction: [] as number[], whole: [] as number[] };
let seed = 12345;
const random = () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed / 2 ** 32);
for (let n = 0; n < COMPARED; n++) {
  const [column, row] = [Math.floor(random() * side), Math.floor(random() * side)];
  const place = cellPlace(grid, column, row);
  const told = losses.lossDb[row * side + column]!;
  if (told !== told) continue;
  const profile = sampleProfile(terrain, a.place, place, CELL_M, scratch);
  if (profile.holes || profile.distanceM < 2 * CELL_M) continue;
  const freeDb = freeSpaceLossDb({ distanceKm: profile.distanceM / 1000, frequencyGHz: ask.frequencyGHz });
  const bullington = bullingtonLossDb({
    distancesKm: profile.distancesKm,
    heightsM: obstructionHeightsM(profile, false),
    txAmslM: profile.groundAmslM[0]! + ask.txHeightM,
    rxAmslM: profile.groundAmslM.at(-1)! + ask.rxHeightM,
    frequencyGHz: ask.frequencyGHz,
    kFactor: ask.kFactor,
  });
  // Through trees nothing is bent over their tops.
  if (losses.treesDb[row * side + column] === 0) errors.diffraction.push(Math.abs(told - freeDb - bullington));
  const { path } = answerLink({
    plan: world.plan,
    kind: "access",
    foliageDepthM: null,
    a: { ...a, radio: { ...a.radio, heightM: ask.txHeightM, frequencyMHz: 5600 } },
    b: { ...b, place, radio: { ...b.radio, heightM: ask.rxHeightM, frequencyMHz: 5600 } },
    profile,
  });
  if (path) errors.whole.push(Math.abs(told - freeDb - path.diffractionDb - path.trees.lossDb));
}
for (const [name, all] of Object.entries(errors)) {
  const share = (db: number) => ((100 * all.filter((one) => one <= db).length) / all.length).toFixed(1);
  console.log(
    `\n${name === "diffraction" ? "against Bullington over the full profile" : "against the whole answer, trees in the ray and all"}: ${all.length} cells, within 1 dB ${share(1)} % (95), within 3 dB ${share(3)} % (99)`,
  );
}

// What a dragged heading costs: pattern, tapes' tables and classes laid over losses that are there.
const sector = world.radios.get(link.aRadioId)!;
const kit = usualClient(world, sector)!;
const near = endOf(world, sector.id);
const bearings = cellBearings(grid);
const total = new Float32Array(losses.lossDb.length);
const cells = newCells(grid);
const table = lossTable(world, sector, kit, null);
const weather = weatherTable(world.plan, sector, 30, RADIUS_M / 1000);
let azimuthDeg = 0;
const pattern = () =>
  withPattern(
    losses,
    bearings,
    {
      antenna: near.antenna,
      polarization: sector.polarization,
      azimuthDeg: (azimuthDeg = (azimuthDeg + 7) % 360),
      mechanicalTiltDownDeg: 2,
    },
    total,
  );
const whole = () => {
  pattern();
  classify(grid, losses, total, table, weather, 6, null, cells);
};
for (let i = 0; i < 10; i++) whole();
console.log(
  `\na dragged heading, ${side * side} cells: pattern ${median(Array.from({ length: 20 }, () => timed(pattern))).toFixed(1)} ms, with levels and classes ${median(Array.from({ length: 20 }, () => timed(whole))).toFixed(1)} ms (100 at the eye)`,
);
console.log(
  `tables of the tapes for another power: ${median(Array.from({ length: 9 }, () => timed(() => void lossTable(world, sector, kit, null)))).toFixed(1)} ms`,
);
