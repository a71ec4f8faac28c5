import { expect, test } from "@jest/globals";
import { valley, town } from "#core/testing";
import { availabilityOf, seasonsOf, type LinkMonth, type LinkWatch } from "#core/watch";

const month = (number: number, asked: number, up: number, good = up, deviationDb: number | null = 0): LinkMonth => ({
  month: number,
  hoursAsked: asked,
  hoursUp: up,
  hoursGood: good,
  deviationDb,
});
const watch = (linkId: string, months: LinkMonth[]): LinkWatch => ({
  linkId,
  state: "asPromised",
  lastDay: 1,
  deviationDb: 0,
  levelDbm: { a: -60, b: -60 },
  noiseDbm: { a: null, b: null },
  rateShare: 1,
  upPercent: 100,
  goodPercent: 100,
  worstMonth: null,
  promised: {} as LinkWatch["promised"],
  months,
});

test("customers are counted by their people, month by month, the worst one told", () => {
  const { world } = valley(0, (rows) => {
    town(rows);
    rows.subscribers.find(({ id }) => id === "farm")!.people = 3;
  });
  const access = [...world.links.values()].filter(({ kind }) => kind === "access");
  const [first, second] = access;
  const people = (id: string) =>
    world.subscribers.get(world.radios.get(world.links.get(id)!.bRadioId)!.subscriberId!)!.people;
  const [p, q] = [people(first!.id), people(second!.id)];
  const { sites, plan } = availabilityOf(world, [
    watch(first!.id, [month(0, 700, 700, 350), month(1, 700, 630)]),
    watch(second!.id, [month(0, 700, 350), month(1, 100, 0, 0)]),
  ]);
  expect(sites.reduce((sum, one) => sum + one.people, 0)).toBe(plan!.people);
  expect(plan).toMatchObject({ siteId: null, customers: 2, people: p + q });
  expect(plan!.upPercent).toBeCloseTo((100 * (p * 1330 + q * 350)) / (p * 1400 + q * 800), 9);
  expect(plan!.goodPercent).toBeCloseTo((100 * (p * 980 + q * 350)) / (p * 1400 + q * 800), 9);
  const shares = [(p * 700 + q * 350) / (p * 700 + q * 700), (p * 630) / (p * 700 + q * 100)];
  expect(plan!.worstMonth!.month).toBe(shares[0]! < shares[1]! ? 0 : 1);
  expect(plan!.worstMonth!.upPercent).toBeCloseTo(100 * Math.min(...shares), 9);
});

test("the way to the feed counts each bridge before the customer, and is not told where one is not watched", () => {
  const { world } = valley(0, (rows) => {
    // The feed stands behind the bridge.
    for (const site of rows.sites) site.isFeed = site.id === "east";
  });
  const own = watch("access", [month(0, 700, 630)]);
  const through = (...more: LinkWatch[]) => availabilityOf(world, [own, ...more]).plan!.throughPercent;
  expect(through(watch("bridge", [month(0, 700, 560)]))).toBeCloseTo(100 * (1 - 0.1 - 0.2), 9);
  expect(through(watch("bridge", [month(0, 700, 70)]))).toBe(0);
  expect(through()).toBeNull();
  const near = valley().world;
  expect(availabilityOf(near, [own]).plan!.throughPercent).toBeCloseTo(90, 9);
  expect(availabilityOf(near, []).plan).toBeNull();
  expect(availabilityOf(near, [{ ...own, upPercent: null }]).plan).toBeNull();
});

test("seasons are three months each, a winter that of its January, turned about south of the equator", () => {
  // December 2024 to June 2025.
  const december = (2024 - 1970) * 12 + 11;
  const months = [0, 1, 2, 3, 4, 5, 6].map((i) => month(december + i, 700, 700 - 70 * i, 350, i - 3));
  const north = seasonsOf(months, 28);
  expect(north.map(({ season, year, hoursAsked }) => [season, year, hoursAsked])).toEqual([
    ["winter", 2025, 2100],
    ["spring", 2025, 2100],
    ["summer", 2025, 700],
  ]);
  expect(north.map(({ deviationDb }) => deviationDb)).toEqual([-2, 1, 3]);
  expect(north[0]!.upPercent).toBeCloseTo(90, 9);
  expect(north[0]!.goodPercent).toBeCloseTo(50, 9);
  expect(seasonsOf(months, -28).map(({ season }) => season)).toEqual(["summer", "autumn", "winter"]);
  expect(seasonsOf([month(december, 0, 0)], 28)).toEqual([]);
});
