import { describe, expect, test } from "@jest/globals";
import { backhaulOf } from "#core/capacity";
import { evaluate } from "#core/evaluate";
import { hopWays } from "#core/expansion";
import { mendsOf } from "#core/findings";
import { costOf } from "#core/bill";
import { checkPatches, setPatch, withPatches, type World } from "#core/plan";
import { radioIn, town, valley } from "#core/testing";

/** The valley's town: the houses hang on the north-western mast, which a narrow bridge joins to the feed in the north-east. */
const made = valley(0, (rows) => {
  town(rows);
  for (const site of rows.sites)
    Object.assign(site, { isFeed: ["west", "north-east"].includes(site.id), feedMbps: 50 });
  for (const one of rows.subscribers) Object.assign(one, { demandMbps: 40, demandUpMbps: 4 });
  for (const id of ["nw", "ne"]) radioIn(rows, id).widthMHz = 10;
});
const HOP = "second";
const of = (world: World, check: string) => evaluate(world, made.between).findings.filter((one) => one.check === check);
const loadOf = (world: World, linkId: string) =>
  backhaulOf(world, evaluate(world, made.between).summaries).hops.find((hop) => hop.linkId === linkId)?.load;

describe("a bridge too narrow", () => {
  test("is found with what is asked for and kept, and each way out is borne out by the whole plan", () => {
    const [fault] = of(made.world, "fullHop");
    const load = loadOf(made.world, HOP)!;
    expect(load).toBeGreaterThan(1);
    expect(fault).toMatchObject({
      linkId: HOP,
      stage: "capacity",
      figure: { value: load, unit: "of what it carries" },
    });
    const ways = hopWays(made.world, HOP, made.between);
    expect(ways.length).toBeGreaterThan(1);
    for (const { patches, load: told, downMbps, upMbps, costEur, fullestOnWay } of ways) {
      expect(checkPatches(made.world, patches)).toEqual([]);
      const then = withPatches(made.world, patches);
      const tree = backhaulOf(then, evaluate(then, made.between).summaries);
      const { way } = tree.sites.find(({ siteId }) => siteId === "north-west")!;
      const hop = tree.hops.find(({ linkId }) => linkId === way.at(-1))!;
      expect([hop.load, hop.downMbps, hop.upMbps]).toEqual([told, downMbps, upMbps]);
      expect(told).toBeLessThan(load);
      expect(fullestOnWay).toBeGreaterThanOrEqual(told);
      expect(costEur).toBeCloseTo(costOf(then) - costOf(made.world), 6);
    }
    // What is enough comes before what is not.
    const enough = ways.map((way) => way.load <= 1);
    expect(enough).toEqual([...enough].sort((x, y) => Number(y) - Number(x)));
  });

  test("is asked about a bridge that there is, and one that no feed reaches has nothing to carry", () => {
    expect(() => hopWays(made.world, "none", made.between)).toThrow('There is no link "none" in the plan.');
    const unfed = withPatches(made.world, [setPatch("sites", "north-east", { isFeed: false })]);
    expect(hopWays(unfed, HOP, made.between)).toEqual([]);
    expect(of(unfed, "fullHop")).toEqual([]);
  });
});

test("a feed that is asked for more than it carries is found, one that nobody spoke of is not", () => {
  const [fault] = of(made.world, "fullFeed");
  expect(fault).toMatchObject({ where: "north-east", linkId: null, figure: { unit: "of the feed" } });
  expect(fault!.people).toBeGreaterThan(0);
  expect(of(withPatches(made.world, [setPatch("sites", "north-east", { feedMbps: 0 })]), "fullFeed")).toEqual([]);
});

test("a site that no working bridge joins to a feed is found, with the people behind it", () => {
  expect(of(made.world, "unfed")).toEqual([]);
  const cut = withPatches(
    made.world,
    [...made.world.radios.values()]
      .filter(({ role }) => role === "bridge")
      .map(({ id }) => setPatch("radios", id, { txPowerDbm: -40 })),
  );
  const [fault] = of(cut, "unfed");
  expect(fault!.stage).toBe("capacity");
  expect(of(cut, "unfed").map(({ where }) => where)).toEqual(["north-west", "east"]);
});

describe("a slow customer's mends", () => {
  test("are faster one way and slower none, as the whole plan bears out, fastest first", () => {
    const mends = mendsOf(made.world, "l0", made.between);
    const now = evaluate(made.world, made.between).summaries.get("l0")!;
    expect(mends.length).toBeGreaterThan(0);
    for (const { patches, downMbps, upMbps, isServed, sectorId } of mends) {
      const then = withPatches(made.world, patches);
      expect(evaluate(then, made.between).summaries.get("l0")).toMatchObject({ downMbps, upMbps, served: isServed });
      expect(then.links.get("l0")!.aRadioId).toBe(sectorId);
      expect(downMbps).toBeGreaterThanOrEqual(now.downMbps);
      expect(upMbps).toBeGreaterThanOrEqual(now.upMbps);
      expect(downMbps + upMbps).toBeGreaterThan(now.downMbps + now.upMbps);
    }
    const rates = mends.map(({ downMbps }) => downMbps);
    expect(rates).toEqual([...rates].sort((x, y) => y - x));
  });

  test("are asked of a customer's link", () => {
    expect(() => mendsOf(made.world, "bridge", made.between)).toThrow(
      `There is no customer's link "bridge" in the plan.`,
    );
  });
});
