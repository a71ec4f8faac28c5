import { demoPlan, islandSurface, largeSibling } from "#demo";
import { worldOf } from "#core/plan";
import { plainTerrain, profileScratch, sampleProfile } from "#core/terrain";
import { planChannels } from "#core/channels";
const isLarge = process.argv[2] === "large";
const { rows, surface } = isLarge ? largeSibling(167) : { rows: demoPlan(islandSurface()), surface: islandSurface() };
const terrain = plainTerrain(surface);
const world = worldOf(rows);
const scratch = profileScratch();
const between = (a: any, b: any) => sampleProfile(terrain, a, b, undefined, scratch);
for (const school of ["free", "headings", "backToBack"] as const) {
  const s = Date.now();
  const plan = await planChannels(world, { school, workPeople: 0.2, fixedIds: [], seconds: 5 }, between);
  console.log(school, ((Date.now() - s) / 1000).toFixed(1), "s", { now: plan.costNow.toFixed(2), cost: plan.cost.toFixed(2), bound: plan.lowerBound.toFixed(2), served: [plan.peopleServedNow, plan.peopleServed], gain: plan.gain.length, lose: plan.lose.length });
  console.log(plan.moves.slice(0, 12).map((m) => `${m.name} ${m.fromMHz}→${m.toMHz}`).join("; "));
}
