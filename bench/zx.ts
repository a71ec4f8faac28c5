import { gridAround, newSwept, raySpacingKm, RayPoints, raysOf, sweep, sweepRay, SweepScratch } from "#core/coverage";
import { plainTerrain } from "#core/terrain";
import { worldOf } from "#core/plan";
import { demoPlan, islandSurface } from "#demo";
const s = islandSurface(); const world = worldOf(demoPlan(s)); const terrain = plainTerrain(s);
const site = [...world.sites.values()].find((x) => x.name.includes("Ridge")) ?? [...world.sites.values()][0]!;
const grid = gridAround(site, 12000, 30); const losses = newSwept(grid);
const ask = { txHeightM: 20, rxHeightM: 6, frequencyGHz: 5.6, kFactor: 4 / 3, season: "inLeaf" as const };
const points = new RayPoints(grid, raySpacingKm(terrain, grid)); const scratch = new SweepScratch(points);
for (let n = 0; n < 8; n++) { let read = 0, swept = 0; const t = performance.now();
  for (let r = 0; r < raysOf(grid); r++) { const a = performance.now(); points.read(terrain, r); const b = performance.now(); sweepRay(points, ask, losses, scratch); const c = performance.now(); read += b - a; swept += c - b; }
  console.log((performance.now() - t).toFixed(0), "read", read.toFixed(0), "swept", swept.toFixed(0)); }
