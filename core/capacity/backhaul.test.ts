import { expect, test } from "@jest/globals";
import { backhaulOf } from "#core/capacity";
import { setPatch, withPatches, type World } from "#core/plan";
import type { LinkSummary } from "#core/outcome";
import { radio, valley } from "#core/testing";

/**
 * Masts in a row, feed – middle – end, a mast "lone" that no bridge reaches, and a long bridge feed – end that a test may put in. Customers
 * ask for 10 down and 1 up at the feed, 20 and 2 in the middle, 40 and 30 at the end, 80 and 8 at the lone mast.
 */
function chain(withRing = false): World {
  return valley(0, (rows) => {
    const [site, customer] = [rows.sites[0]!, rows.subscribers[0]!];
    const bridge = rows.links.find(({ kind }) => kind === "bridge")!;
    const asked = { feed: [10, 1], middle: [20, 2], end: [40, 30], lone: [80, 8] } as const;
    rows.sites = Object.keys(asked).map((id) => ({
      ...site,
      id,
      isFeed: id === "feed",
      feedMbps: id === "feed" ? 100 : 0,
    }));
    [rows.subscribers, rows.radios, rows.links] = [[], [], []];
    const join = (id: string, kind: "bridge" | "access", a: string, b: string) => {
      const at = (end: string) => (end.startsWith("at ") ? { subscriberId: end } : { siteId: end });
      rows.radios.push(radio(`${id} a`, at(a)), radio(`${id} b`, at(b)));
      rows.links.push({ ...bridge, id, kind, aRadioId: `${id} a`, bRadioId: `${id} b` });
    };
    join("first", "bridge", "feed", "middle");
    // Written from its far end.
    join("second", "bridge", "end", "middle");
    if (withRing) join("long", "bridge", "feed", "end");
    for (const [mast, [demandMbps, demandUpMbps]] of Object.entries(asked)) {
      rows.subscribers.push({ ...customer, id: `at ${mast}`, people: 3, demandMbps, demandUpMbps });
      join(`to ${mast}`, "access", mast, `at ${mast}`);
    }
  }).world;
}

const told = (world: World, rest: Record<string, Partial<LinkSummary>> = {}) =>
  new Map(
    [...world.links.keys()].map((linkId): [string, LinkSummary] => [
      linkId,
      {
        ...{ linkId, state: "clear", served: true, distanceM: 1000, marginLeftDb: 20, levelADbm: -60, levelBDbm: -60 },
        ...{ downMbps: 500, upMbps: 400, steadyDownMbps: 100, steadyUpMbps: 50 },
        ...rest[linkId],
      },
    ]),
  );

test("demand adds up toward the feed, each hop against what it keeps its way round", () => {
  const world = chain();
  const { hops, sites, feeds, unreached, spare } = backhaulOf(world, told(world));
  expect(hops.map(({ linkId, fromSiteId, toSiteId }) => [linkId, fromSiteId, toSiteId])).toEqual([
    ["first", "feed", "middle"],
    ["second", "middle", "end"],
  ]);
  const [first, second] = hops;
  expect(first).toMatchObject({
    demandDownMbps: 60,
    demandUpMbps: 32,
    downMbps: 100,
    upMbps: 50,
    customers: 2,
    people: 6,
  });
  // The second is written toward the feed: what its tape calls down comes back.
  expect(second).toMatchObject({ demandDownMbps: 40, demandUpMbps: 30, downMbps: 50, upMbps: 100, customers: 1 });
  expect([first!.load, second!.load]).toEqual([32 / 50, 40 / 50]);
  expect(sites.find(({ siteId }) => siteId === "end")).toMatchObject({
    ...{ way: ["first", "second"], narrowest: "second", feedId: "feed" },
  });
  expect(feeds).toEqual([
    { siteId: "feed", feedMbps: 100, demandDownMbps: 70, demandUpMbps: 33, load: 0.7, fullInYears: null },
  ]);
  expect([unreached, spare]).toEqual([["lone"], []]);
});

test("oversubscription shares what is asked for, and growth says when a hop is full", () => {
  const world = withPatches(chain(), [setPatch("plans", "valley", { oversubscription: 1.25, growthPercent: 100 })]);
  const [first, second] = backhaulOf(world, told(world)).hops;
  expect(first).toMatchObject({ demandDownMbps: 48, demandUpMbps: 30 });
  // One alone is never shared out.
  expect(second).toMatchObject({ demandDownMbps: 40, demandUpMbps: 30 });
  expect(first!.fullInYears).toBeCloseTo(Math.log2(50 / 30), 12);
});

test("the shortest way carries, of equals the wider; what is left over closes a ring", () => {
  const ringed = chain(true);
  const { hops, spare } = backhaulOf(ringed, told(ringed));
  expect(hops.map(({ linkId }) => linkId)).toEqual(["first", "long"]);
  expect(spare).toEqual(["second"]);
  // The long one carries nothing: the way through the middle is all there is.
  const broken = told(ringed, { long: { steadyDownMbps: 0 } });
  expect(backhaulOf(ringed, broken)).toMatchObject({ spare: [], unreached: ["lone"] });
  expect(backhaulOf(ringed, broken).hops.map(({ linkId }) => linkId)).toEqual(["first", "second"]);
});

test("what cannot be promised is told as fair weather's, and without a feed there is no tree", () => {
  const world = chain();
  const fair = told(world, { first: { steadyDownMbps: null, steadyUpMbps: null } });
  expect(backhaulOf(world, fair).hops[0]).toMatchObject({ isFairWeather: true, downMbps: 500, upMbps: 400 });
  const unfed = withPatches(world, [setPatch("sites", "feed", { isFeed: false })]);
  expect(backhaulOf(unfed, told(unfed))).toEqual({ feeds: [], hops: [], sites: [], unreached: [], spare: [] });
});
