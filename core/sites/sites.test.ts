import { describe, expect, test } from "@jest/globals";
import { evaluate } from "#core/evaluate";
import { destination, inverseGeodesic } from "#core/geodesy";
import { costOf } from "#core/bill";
import { checkPatches, withPatches, type Site } from "#core/plan";
import {
  buildSites,
  chooseSites,
  clearHops,
  customersOf,
  peopleReached,
  siteReach,
  sitesQuestion,
  terrainCandidates,
  wantedCustomers,
  withoutLinksOf,
  type SiteStyle,
} from "#core/sites";
import { plainTerrain, readGround } from "#core/terrain";
import { valley, valleySurface, type ValleyRows } from "#core/testing";

let next = 0;
const makeId = () => `new-${next++}`;
const RIDGE_M = 60;
const terrain = plainTerrain(valleySurface(RIDGE_M));
const heightAt = ({ latDeg, lonDeg }: { latDeg: number; lonDeg: number }) => {
  const sample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  readGround(terrain, latDeg, lonDeg, sample);
  return sample.groundAmslM;
};
const STYLE: SiteStyle = { reachKm: 9, mastM: 12, mastEur: 2000 };

/** Houses on both sides of the ridge that nobody serves yet; one of them declined. */
function houses(rows: ValleyRows): void {
  const [farm] = rows.subscribers;
  for (let i = 0; i < 12; i++) {
    const id = `house-${i}`;
    const place = { latDeg: -0.994 - 0.0008 * i, lonDeg: i % 2 === 0 ? 20.03 + 0.001 * i : 20.075 + 0.001 * i };
    rows.subscribers.push({ ...farm!, id, name: id, ...place, people: 2 + i, demandMbps: 5, demandUpMbps: 1 });
  }
  rows.subscribers[3]!.status = "declined";
}
const made = valley(RIDGE_M, houses);
const { world, between } = made;
const wanted = wantedCustomers(world, "unserved", between);

describe("who is wanted", () => {
  test("is whoever nothing serves; whoever declined is left alone", () => {
    const { summaries } = evaluate(world, between);
    const isFarmServed = summaries.get("access")!.served;
    expect(wanted.subscriberIds.includes("farm")).toBe(!isFarmServed);
    expect(wanted.subscriberIds).not.toContain(world.subscribers.get("house-2")!.id);
    expect(wanted.subscriberIds).toHaveLength(11 + Number(!isFarmServed));
    expect(wanted.people[wanted.subscriberIds.indexOf("house-5")]).toBe(7);
    expect(wanted.isWithoutFeed).toBe(false);
    expect(wanted.fedIds.includes("east")).toBe(summaries.get("bridge")!.served);
  });

  test("is everybody, as if nobody were linked, where that is asked", () => {
    const all = wantedCustomers(world, "everybody", between);
    expect(all.subscriberIds).toHaveLength(12);
    expect([...withoutLinksOf(world, all.subscriberIds).links.keys()]).toEqual(["bridge"]);
  });
});

describe("candidates", () => {
  const masts = terrainCandidates(
    world,
    customersOf(world, wanted.subscriberIds),
    STYLE,
    null,
    heightAt,
    between,
    makeId,
  );

  test("are the terrain's high points, each with a mast, the ridge's crest among them", () => {
    expect(masts.length).toBeGreaterThan(0);
    const crest = masts.filter((one) => heightAt(one) > 10 + 0.8 * RIDGE_M);
    expect(crest.length).toBeGreaterThan(0);
    for (const one of masts) expect(one).toMatchObject({ structureHeightM: 12, power: "solar" });
  });

  test("stay near mains where that is asked", () => {
    const near = terrainCandidates(
      world,
      customersOf(world, wanted.subscriberIds),
      STYLE,
      400,
      heightAt,
      between,
      makeId,
    );
    const mains = [...customersOf(world, wanted.subscriberIds), ...world.sites.values()];
    for (const one of near) {
      expect(Math.min(...mains.map((other) => inverseGeodesic(one, other).distanceM))).toBeLessThanOrEqual(400);
      expect(one.power).toBe("mains");
    }
  });

  const candidates: Site[] = [...wanted.standing, ...masts.slice(0, 4)];
  const reaches = candidates.map((site) => siteReach(world, site, wanted.subscriberIds, STYLE, between, makeId));
  const hops = clearHops(world, candidates, 15, { index: 0, of: 1 }, between, makeId);

  test("reach whom a link of their own would serve, and nobody beyond their reach", () => {
    const ids = (reach: (typeof reaches)[number]) => [...reach.customers].map((i) => wanted.subscriberIds[i]!);
    const [west, east] = reaches;
    // The ridge parts the valley.
    expect(ids(west!).every((id) => world.subscribers.get(id)!.lonDeg < 20.055)).toBe(true);
    expect(ids(east!).every((id) => world.subscribers.get(id)!.lonDeg > 20.055)).toBe(true);
    expect(ids(west!).length).toBeGreaterThan(2);
    const short = siteReach(world, candidates[0]!, wanted.subscriberIds, { ...STYLE, reachKm: 4 }, between, makeId);
    for (const id of ids(short))
      expect(inverseGeodesic(candidates[0]!, world.subscribers.get(id)!).distanceM).toBeLessThanOrEqual(4000);
    expect(ids(short).length).toBeLessThan(ids(west!).length);
    // A new mast costs itself and its sectors.
    const mast = reaches[2]!;
    expect(mast.costEur).toBeGreaterThanOrEqual(2000 + 100 * mast.sectors);
    expect(mast.sectors).toBeGreaterThan(0);
  });

  test("are joined where a bridge clears, each pair once whoever works on it", () => {
    const half = [0, 1].flatMap((index) => clearHops(world, candidates, 15, { index, of: 2 }, between, makeId));
    const pairs = (some: typeof hops) => some.map(({ i, j }) => `${i} ${j}`).sort();
    expect(pairs(half)).toEqual(pairs(hops));
    for (const { i, j, costEur } of hops) {
      expect(i).toBeLessThan(j);
      expect(costEur).toBeGreaterThan(100);
    }
    const nearest = inverseGeodesic(candidates[0]!, candidates[1]!).distanceM;
    const shorter = clearHops(world, candidates, nearest / 1000 - 0.1, { index: 0, of: 1 }, between, makeId);
    expect(pairs(shorter)).not.toContain("0 1");
  });

  test("make a question whose share is what can be reached at most, and what is built serves whom it says", async () => {
    const { question, reachable } = sitesQuestion(candidates, wanted, reaches, hops, { share: 1, seconds: 5 });
    const asked = wanted.people.reduce((sum, one) => sum + one, 0);
    expect(reachable).toBeLessThanOrEqual(asked);
    expect(question.share).toBeCloseTo(reachable / asked, 12);
    expect(peopleReached(question, [...candidates.keys()])).toBe(reachable);
    const heard: number[] = [];
    const choice = await chooseSites(question, ({ costEur }) => heard.push(costEur));
    expect(heard.length).toBeGreaterThan(0);
    expect(heard).toEqual([...heard].sort((x, y) => y - x));
    expect(choice.costEur).toBeCloseTo(Math.min(...heard, choice.costEur), 9);
    const chosen = choice.chosen.map((i) => candidates[i]!);
    const place = new Map(choice.chosen.map((i, at) => [i, at]));
    const built = buildSites(
      world,
      chosen,
      wanted,
      choice.chosen.map((i) => reaches[i]!),
      hops.flatMap(({ i, j, costEur }) =>
        place.has(i) && place.has(j) ? [{ i: place.get(i)!, j: place.get(j)!, costEur }] : [],
      ),
      STYLE,
      between,
      makeId,
    )!;
    expect(checkPatches(world, built.patches)).toEqual([]);
    const planned = withPatches(world, built.patches);
    const { summaries, outcome } = evaluate(planned, between);
    const served = [...planned.links.values()].filter(
      ({ id, bRadioId }) =>
        summaries.get(id)!.served && wanted.subscriberIds.includes(planned.radios.get(bRadioId)!.subscriberId ?? ""),
    );
    expect(built.isLinked).toBe(true);
    expect(built.customersServed).toBe(served.length);
    expect(built.customersServed).toBeGreaterThan(6);
    expect(outcome.customersServed).toBeGreaterThanOrEqual(built.customersServed);
    const newSites = built.sites.filter(({ isNew }) => isNew);
    expect(built.costEur).toBeCloseTo(costOf(planned) - costOf(world) + 2000 * newSites.length, 6);
    expect(built.sites.map(({ siteId }) => siteId)).toEqual(chosen.map(({ id }) => id));
    for (const { joinedTo, siteId } of newSites) {
      expect(joinedTo).not.toBeNull();
      expect(planned.sites.has(siteId)).toBe(true);
    }
    expect(built.fastCustomers).toBeLessThanOrEqual(built.customersServed);
  });
});

test("without anybody wanted there are no candidates, and a far corner of the plan makes none on its own hill", () => {
  expect(terrainCandidates(world, [], STYLE, null, heightAt, between, makeId)).toEqual([]);
  const [west] = wanted.standing;
  const lone = [{ ...world.subscribers.get("farm")!, ...destination(west!, 90, 400) }];
  for (const one of terrainCandidates(world, lone, { ...STYLE, reachKm: 1 }, null, heightAt, between, makeId))
    expect(inverseGeodesic(one, west!).distanceM).toBeGreaterThan(150);
});
