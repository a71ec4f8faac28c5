import { cellPlace, clientEnd, gridAround, raySpacingKm, RayPoints, raysOf, sideOf, usualClient } from "#core/coverage";
import { endOf, worldOf } from "#core/plan";
import { plainTerrain, sampleProfile } from "#core/terrain";
import { demoPlan, islandSurface } from "#demo";
const s = islandSurface(); const world = worldOf(demoPlan(s)); const terrain = plainTerrain(s);
for (const [name, c, r] of [["Ridge wood", -74, -85], ["Ridge east", -33, -81], ["Ridge wood", -57,-92]] as const) {
  const sector = [...world.radios.values()].find((x) => x.name === name)!;
  const kit = usualClient(world, sector)!; const near = endOf(world, sector.id);
  const grid = gridAround(near.place, 6000, 30); const side = sideOf(grid); const cell = (grid.rings + r) * side + grid.rings + c;
  const profile = sampleProfile(terrain, near.place, cellPlace(grid, grid.rings + c, grid.rings + r));
  const n = profile.distancesKm.length; const D = profile.distanceM;
  const line = (i: number) => { const d = profile.distancesKm[i]! * 1000; const los = (profile.groundAmslM[0]! + sector.heightM) + ((profile.groundAmslM[n - 1]! + kit.heightM) - (profile.groundAmslM[0]! + sector.heightM)) * d / D; return `${(D - d).toFixed(1)}m back: ground ${profile.groundAmslM[i]!.toFixed(1)} cover ${profile.coverHeightM[i]} code ${profile.coverCode[i]} los ${los.toFixed(1)}`; };
  console.log("\n", name, "full"); for (let i = Math.max(0, n - 7); i < n; i++) console.log(line(i));
  let worst = 0; for (let i = 1; i < n - 1; i++) { const d = profile.distancesKm[i]! * 1000; const los = (profile.groundAmslM[0]! + sector.heightM) + ((profile.groundAmslM[n - 1]! + kit.heightM) - (profile.groundAmslM[0]! + sector.heightM)) * d / D; if (profile.groundAmslM[i]! + profile.coverHeightM[i]! > los - 1) console.log("in way", line(i)); }
  const spacing = raySpacingKm(terrain, grid); const points = new RayPoints(grid, spacing);
  for (let ray = 0; ray < raysOf(grid); ray++) { points.read(terrain, ray); for (let k = 0; k < points.receivers; k++) if (points.cell[k] === cell) {
    console.log("sweep at", points.at[k]! * spacing * 1000, "ground", points.groundM[k], "lineEnd", (points.at[k]! - points.lineEnds[k]!) * spacing * 1000, "ownBack", points.ownBack[k]! * spacing * 1000);
    for (let i = 0; i < points.near.counts[k]!; i++) console.log("near", (points.near.back[4 * k + i]! * spacing * 1000).toFixed(1), points.near.groundM[4 * k + i]!.toFixed(1), points.near.coverM[4 * k + i], points.near.isTrees[4 * k + i]);
    for (let i = 1; i < points.at[k]!; i++) { const los = points.line.groundAmslM[0]! + sector.heightM + (points.groundM[k]! + kit.heightM - points.line.groundAmslM[0]! - sector.heightM) * i / points.at[k]!; if (points.line.groundAmslM[i]! + points.line.coverHeightM[i]! > los - 1) console.log("line", ((points.at[k]! - i) * spacing * 1000).toFixed(1), points.line.groundAmslM[i]!.toFixed(1), points.line.coverHeightM[i], points.line.coverCode[i], los.toFixed(1)); }
  } }
}
