import { cellPlace, clientEnd, gridAround, newSwept, sideOf, sweep, usualClient } from "#core/coverage";
import { answerLink } from "#core/link";
import { freeSpaceLossDb } from "#core/propagation";
import { endOf, worldOf } from "#core/plan";
import { plainTerrain, profileScratch, sampleProfile } from "#core/terrain";
import { demoPlan, islandSurface } from "#demo";
const s = islandSurface(); const world = worldOf(demoPlan(s)); const terrain = plainTerrain(s); const scratch = profileScratch(8192);
let seed = 12345;
const random = () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed / 2 ** 32);
const all: number[] = []; const worst: any[] = [];
for (const sector of [...world.radios.values()].filter((r) => r.role === "sector" && r.siteId)) {
  const kit = usualClient(world, sector)!; const near = endOf(world, sector.id); const far = clientEnd(world, sector, kit);
  const grid = gridAround(near.place, 6000, 30); const side = sideOf(grid);
  const losses = newSwept(grid);
  const frequencyGHz = sector.frequencyMHz / 1000;
  const t0 = performance.now(); sweep(grid, (look) => look(terrain), { txHeightM: sector.heightM, rxHeightM: kit.heightM, frequencyGHz, kFactor: world.plan.kFactor, season: world.plan.season }, losses); const ms = performance.now() - t0;
  const errors: number[] = [];
  for (let n = 0; n < 6000; n++) {
    const [column, row] = [Math.floor(random() * side), Math.floor(random() * side)];
    const cell = row * side + column;
    const told = losses.lossDb[cell]!; if (told !== told) continue;
    const place = cellPlace(grid, column, row);
    const profile = sampleProfile(terrain, near.place, place, undefined, scratch);
    if (profile.holes || profile.distanceM < 60) continue;
    const { path } = answerLink({ plan: world.plan, kind: "access", foliageDepthM: null, a: near, b: { ...far, place }, profile });
    if (!path) continue;
    const e = told - freeSpaceLossDb({ distanceKm: profile.distanceM / 1000, frequencyGHz }) - path.diffractionDb - path.trees.lossDb;
    errors.push(e); all.push(e);
    if (Math.abs(e) > 3) worst.push({ sector: sector.name, h: sector.heightM, rx: kit.heightM, f: frequencyGHz, column: column - grid.rings, row: row - grid.rings, km: profile.distanceM / 1000, e, told: losses.diffractionDb[cell], toldTrees: losses.treesDb[cell], diff: path.diffractionDb, trees: path.trees.lossDb, way: path.trees.way });
  }
  const share = (db: number) => (100 * errors.filter((e) => Math.abs(e) <= db).length / errors.length).toFixed(1);
  console.log(ms.toFixed(0), "ms", sector.name.padEnd(20), frequencyGHz, sector.heightM, kit.heightM, errors.length, share(1), share(3), Math.max(...errors).toFixed(1), Math.min(...errors).toFixed(1));
}
const share = (db: number) => (100 * all.filter((e) => Math.abs(e) <= db).length / all.length).toFixed(2);
console.log("all", all.length, share(1), share(3));
const kinds = new Map<string, number>();
for (const w of worst) { const k = `${w.toldTrees > 0 ? "toldTrees" : "toldGround"} ${w.trees > 0 ? "trees" : "ground"} ${w.e > 0 ? "over" : "under"}`; kinds.set(k, (kinds.get(k) ?? 0) + 1); }
console.log(kinds); worst.sort((x, y) => Math.abs(y.e) - Math.abs(x.e));
for (const w of worst.slice(0, 12)) console.log(JSON.stringify(w, (k, v) => typeof v === "number" ? +v.toFixed(2) : v));
for (const w of worst.filter((_, i) => i % Math.ceil(worst.length / 15) === 0)) console.log(JSON.stringify(w, (k, v) => typeof v === "number" ? +v.toFixed(2) : v));
