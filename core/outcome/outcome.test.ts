import { billOf } from "#core/bill";
import { expect, test } from "@jest/globals";
import { answerOf, fedSites, outcomeOf, peopleBehind, summarize, type LinkSummary } from "#core/outcome";
import { steadyMbps } from "#core/link";
import { linkEnds, worldOf, type Link, type World } from "#core/plan";
import { radio, valley, type ValleyRows } from "#core/testing";

/**
 * A chain of masts feed – middle – end, with a mast "lone" that no bridge reaches. Customers: one of 2 people on the feed, one
 * of 5 on the middle, one of 11 on the end, one of 23 on the lone mast.
 */
function chain(change: (rows: ValleyRows) => void = () => undefined): World {
  return valley(0, (rows) => {
    const { sites, subscribers, links } = rows;
    const site = sites[0]!;
    const customer = subscribers[0]!;
    const bridge = links.find(({ kind }) => kind === "bridge")!;
    rows.sites = ["feed", "middle", "end", "lone"].map((id) => ({ ...site, id, isFeed: id === "feed" }));
    rows.subscribers = [];
    rows.radios = [];
    rows.links = [];
    const join = (id: string, kind: Link["kind"], a: string, b: string) => {
      const at = (end: string) => (end.startsWith("at ") ? { subscriberId: end } : { siteId: end });
      rows.radios.push(radio(`${id} a`, at(a)), radio(`${id} b`, at(b)));
      rows.links.push({ ...bridge, id, kind, aRadioId: `${id} a`, bRadioId: `${id} b` });
    };
    // The second bridge is written from its far end: which end is a and which b says nothing of where the feed is.
    join("first", "bridge", "feed", "middle");
    join("second", "bridge", "end", "middle");
    for (const [mast, people] of [
      ["feed", 2],
      ["middle", 5],
      ["end", 11],
      ["lone", 23],
    ] as const) {
      rows.subscribers.push({ ...customer, id: `at ${mast}`, people });
      join(`to ${mast}`, "access", mast, `at ${mast}`);
    }
    change(rows);
  }).world;
}
const summaryOf = (linkId: string, rest: Partial<LinkSummary> = {}): LinkSummary => ({
  linkId,
  state: "clear",
  served: true,
  distanceM: 1000,
  marginLeftDb: 20,
  downMbps: 100,
  upMbps: 50,
  levelADbm: -60,
  ...{ steadyDownMbps: null, steadyUpMbps: null },
  levelBDbm: -60,
  ...rest,
});
/** Summaries of every link, served unless told otherwise. */
const told = (world: World, rest: Record<string, Partial<LinkSummary>> = {}) =>
  new Map([...world.links.keys()].map((id) => [id, summaryOf(id, rest[id])]));

test("traffic reaches what bridges that work join with a feed, whichever way round they are written", () => {
  const world = chain();
  expect([...fedSites(world, () => true)].sort()).toEqual(["end", "feed", "middle"]);
  expect([...fedSites(world, ({ id }) => id !== "second")].sort()).toEqual(["feed", "middle"]);
  expect([...fedSites(world, ({ id }) => id !== "first")].sort()).toEqual(["feed"]);
  const ring = chain((rows) => {
    const [first] = rows.links;
    rows.radios.push(radio("ring a", { siteId: "feed" }), radio("ring b", { siteId: "end" }));
    rows.links.push({ ...first!, id: "ring", aRadioId: "ring a", bRadioId: "ring b" });
  });
  expect([...fedSites(ring, ({ id }) => id !== "first")].sort()).toEqual(["end", "feed", "middle"]);
  const nowhere = chain((rows) => rows.sites.forEach((site) => (site.isFeed = false)));
  expect(fedSites(nowhere, () => false).size).toBe(4);
});

test("behind a customer's link are its people, behind a bridge those whose only way it is", () => {
  const world = chain();
  const behind = (id: string) => peopleBehind(world, world.links.get(id)!);
  expect(["to feed", "to middle", "to end", "to lone"].map(behind)).toEqual([2, 5, 11, 23]);
  expect(behind("first")).toBe(5 + 11);
  expect(behind("second")).toBe(11);
  const ring = chain((rows) => {
    rows.radios.push(radio("ring a", { siteId: "feed" }), radio("ring b", { siteId: "end" }));
    rows.links.push({ ...rows.links[0]!, id: "ring", aRadioId: "ring a", bRadioId: "ring b" });
  });
  expect(["first", "second", "ring"].map((id) => peopleBehind(ring, ring.links.get(id)!))).toEqual([0, 0, 0]);
});

test("a customer counts once, when his link serves and his mast is fed", () => {
  const world = chain();
  expect(outcomeOf(world, told(world))).toMatchObject({ customersServed: 3, peopleServed: 18 });
  const without = (id: string) => outcomeOf(world, told(world, { [id]: { served: false } }));
  expect(without("to middle")).toMatchObject({ customersServed: 2, peopleServed: 13 });
  // A bridge that is full still feeds those behind it; one that does not hold feeds nobody.
  expect(without("second")).toMatchObject({ customersServed: 3, peopleServed: 18 });
  const down = (id: string) => outcomeOf(world, told(world, { [id]: { marginLeftDb: 3 } }));
  expect(down("second")).toMatchObject({ customersServed: 2, peopleServed: 7 });
  expect(down("first")).toMatchObject({ customersServed: 1, peopleServed: 2 });
  const partly = told(world);
  partly.delete("first");
  partly.delete("to feed");
  expect(outcomeOf(world, partly)).toMatchObject({ customersServed: 0, peopleServed: 0 });
  const twice = chain((rows) => {
    rows.radios.push(radio("again a", { siteId: "feed" }), radio("again b", { subscriberId: "at middle" }));
    rows.links.push({ ...rows.links.at(-1)!, id: "again", aRadioId: "again a", bRadioId: "again b" });
  });
  expect(outcomeOf(twice, told(twice))).toMatchObject({ customersServed: 3, peopleServed: 18 });
});

test("the weakest link is the one with least margin among those that have an answer", () => {
  const world = chain();
  const weakest = outcomeOf(
    world,
    told(world, {
      first: { marginLeftDb: 12 },
      second: { marginLeftDb: 3 },
      "to feed": { marginLeftDb: 4 },
      "to end": { marginLeftDb: null, served: false },
    }),
  );
  expect(weakest).toMatchObject({ weakestMarginDb: 3, weakestLinkId: "second" });
  const none = told(world, Object.fromEntries([...world.links.keys()].map((id) => [id, { marginLeftDb: null }])));
  expect(outcomeOf(world, none)).toMatchObject({ weakestMarginDb: null, weakestLinkId: null });
});

test("the price is that of the whole bill", () => {
  const world = chain((rows) => {
    rows.links = [];
    rows.radios = rows.radios.slice(0, 2);
  });
  const outcome = outcomeOf(world, new Map());
  expect(outcome.costEur).toBe(billOf(world).priceEur);
  const silent = worldOf({ ...valley().rows, links: [], radios: [] });
  expect(outcomeOf(silent, new Map())).toEqual({
    customersServed: 0,
    peopleServed: 0,
    weakestMarginDb: null,
    weakestLinkId: null,
    noiseMadePeopleKm2: 0,
    costEur: 0,
  });
});

test("kit that has left the library costs nothing and makes no noise that anybody could tell", () => {
  const world = chain((rows) => {
    rows.links = [];
    rows.radios = rows.radios.slice(0, 1);
  });
  const [one] = [...world.radios.values()];
  const antennaEur = world.antennaModels.get(one!.antennaModelId)!.priceEur;
  const before = outcomeOf(world, new Map()).costEur;
  world.antennaModels.delete(one!.antennaModelId);
  expect(outcomeOf(world, new Map())).toMatchObject({ noiseMadePeopleKm2: 0, costEur: before - antennaEur });
  expect(billOf(world).missing).toContain(`the item ${one!.antennaModelId}`);
});

test("a summary takes each end's level from the direction that arrives there, and rates by their direction", () => {
  const made = valley(0, (rows) => {
    rows.radios.find(({ id }) => id === "west-east")!.txPowerDbm = 12;
  });
  const link = made.world.links.get("bridge")!;
  const answer = answerOf(made.world, link, made.between);
  const { aToB, bToA } = answer.path!;
  const steady = steadyMbps(made.world.plan, linkEnds(made.world, link), answer);
  expect(summarize(made.world, link, answer)).toEqual({
    linkId: "bridge",
    state: "clear",
    served: true,
    distanceM: answer.distanceM,
    marginLeftDb: Math.min(aToB.marginLeftDb, bToA.marginLeftDb),
    downMbps: aToB.rateMbps,
    upMbps: bToA.rateMbps,
    levelADbm: bToA.chainLevelDbm,
    levelBDbm: aToB.chainLevelDbm,
    steadyDownMbps: steady!.down,
    steadyUpMbps: steady!.up,
  });
  // A customer's link is held against what he asks for in fair weather.
  const access = made.world.links.get("access")!;
  expect(summarize(made.world, access, answerOf(made.world, access, made.between))).toMatchObject({
    ...{ steadyDownMbps: null, steadyUpMbps: null },
  });
  // 8 dB less power toward east.
  expect(bToA.chainLevelDbm - aToB.chainLevelDbm).toBeCloseTo(8, 6);
  const nowhere = { ...answer, path: null, state: "unknown" as const };
  expect(summarize(made.world, link, nowhere)).toMatchObject({
    served: false,
    marginLeftDb: null,
    downMbps: 0,
    upMbps: 0,
    levelADbm: null,
    levelBDbm: null,
  });
});
