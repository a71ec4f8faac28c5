import { randomUUID } from "node:crypto";
import { demoPlan, islandSurface, largeSibling } from "#demo";
import { worldOf } from "#core/plan";
import { plainTerrain, profileScratch, sampleProfile, readGround } from "#core/terrain";
import { buildSites, chooseSites, clearHops, customersOf, siteReach, sitesQuestion, terrainCandidates, wantedCustomers, withoutLinksOf } from "#core/sites";
import { optimizeSectors, tradeCurve } from "#core/optimize";
const isLarge = process.argv[2] === "large";
const { rows, surface } = isLarge ? largeSibling(167) : { rows: demoPlan(islandSurface()), surface: islandSurface() };
const terrain = plainTerrain(surface);
const world = worldOf(rows);
const scratch = profileScratch();
const between = (a: any, b: any) => sampleProfile(terrain, a, b, undefined, scratch);
const sample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 } as any;
const heightAt = ({ latDeg, lonDeg }: any) => { readGround(terrain, latDeg, lonDeg, sample); return sample.groundAmslM; };
const t = (name: string, f: () => any) => { const s = performance.now(); const r = f(); console.log(name, (performance.now() - s).toFixed(0), "ms"); return r; };
const whom = (process.argv[3] ?? "everybody") as any;
const wanted = t("wanted", () => wantedCustomers(world, whom, between));
console.log(wanted.subscriberIds.length, "wanted;", wanted.fedIds.length, "fed", wanted.isWithoutFeed);
for (const style of [{ reachKm: Number(process.argv[4] ?? 12), mastM: 15, mastEur: 3000 }, ...(isLarge ? [] : [{ reachKm: 2, mastM: 6, mastEur: 900 }])]) {
  const masts = t("candidates", () => terrainCandidates(world, customersOf(world, wanted.subscriberIds), style, null, heightAt, between, randomUUID));
  const cands = [...wanted.standing, ...masts];
  console.log(cands.length, "candidates");
  const trial = withoutLinksOf(world, wanted.subscriberIds);
  const reaches = t("reach", () => cands.map((s: any) => siteReach(trial, s, wanted.subscriberIds, style, between, randomUUID)));
  console.log(reaches.map((r: any) => `${r.reached.length}/${r.sectors}`).join(" "));
  const hops = t("hops", () => clearHops(world, cands, 25, { index: 0, of: 1 }, between, randomUUID));
  console.log(hops.length, "hops");
  for (const share of isLarge ? [0.9] : [0.9]) {
    const { question, reachable } = sitesQuestion(cands, wanted, reaches, hops, { share, seconds: isLarge ? 60 : 10 });
    console.log("reachable", reachable, "of", wanted.people.reduce((a: number, b: number) => a + b, 0), "share", question.share);
    const s = performance.now();
    const choice = await chooseSites(question, (n) => console.log(((performance.now() - s) / 1000).toFixed(1), n.chosen.length, n.costEur, n.lowerBoundEur));
    console.log("chosen", choice.chosen.length, choice.costEur, choice.lowerBoundEur, "gap", ((choice.costEur - choice.lowerBoundEur) / choice.costEur * 100).toFixed(2), "%", ((performance.now() - s) / 1000).toFixed(1), "s");
    if (isLarge) continue;
    const chosen = choice.chosen.map((i) => cands[i]);
    const place = new Map(choice.chosen.map((i, at) => [i, at]));
    const built = t("build", () => buildSites(world, chosen, wanted.fedIds, choice.chosen.map((i) => reaches[i]), hops.flatMap(({ i, j, costEur }: any) => place.has(i) && place.has(j) ? [{ i: place.get(i), j: place.get(j), costEur }] : []), style, between, randomUUID));
    console.log({ ...built, patches: built.patches.length });
  }
}
if (!isLarge) {
  const s = performance.now();
  const points: any[] = [];
  for (const now of optimizeSectors(world, { siteIds: [...world.sites.keys()], may: ["heading", "tilt", "antenna", "power", "customers"], reachKm: 8 }, between, randomUUID))
    if (now.point) { points.push(now.point); console.log(((performance.now() - s) / 1000).toFixed(1), now.message, now.point.steps.at(-1), now.point.meanMbps?.toFixed(1), now.point.costEur); }
  console.log(tradeCurve(points).map((p: any) => [p.peopleServed, p.meanMbps?.toFixed(0), p.strayKm2.toFixed(0), p.costEur]));
}
