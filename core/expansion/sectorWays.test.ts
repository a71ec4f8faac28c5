import { expect, test } from "@jest/globals";
import { reviewPlan } from "#core/evaluate";
import { backhaulOf, sectorAirtime } from "#core/capacity";
import { fullSectorWays } from "#core/expansion";
import { checkOf, checksOf, linksOf } from "#core/findings";
import type { LinkSummary } from "#core/outcome";
import { linksOn, withPatches, type Radio, type World } from "#core/plan";
import { radioIn, valley, type ValleyRows } from "#core/testing";
import { evenArcs } from "./splits";

/** The valley's sector with `count` customers who ask for `downMbps` and `upMbps` each, one beside the other to the east. */
const busy = (count: number, downMbps: number, upMbps: number, change: (rows: ValleyRows) => void = () => undefined) =>
  valley(0, (rows) => {
    const farm = rows.subscribers[0]!;
    Object.assign(farm, { demandMbps: downMbps, demandUpMbps: upMbps });
    for (let i = 1; i < count; i++) {
      rows.subscribers.push({ ...farm, id: `s${i}`, name: `s${i}`, latDeg: farm.latDeg + i * 0.002 });
      rows.radios.push({ ...radioIn(rows, "farm-radio"), id: `r${i}`, name: `r${i}`, subscriberId: `s${i}` });
      rows.links.push({ ...rows.links.find(({ id }) => id === "access")!, id: `l${i}`, bRadioId: `r${i}` });
    }
    change(rows);
  });
const summary = (linkId: string, downMbps: number, upMbps: number): LinkSummary => ({
  linkId,
  state: "clear",
  served: true,
  distanceM: 1000,
  marginLeftDb: 20,
  downMbps,
  upMbps,
  levelADbm: -60,
  ...{ steadyDownMbps: null, steadyUpMbps: null },
  levelBDbm: -60,
});
const told = (world: World, rates: [string, number, number][]) => ({
  summaries: new Map(rates.map(([id, down, up]) => [id, summary(id, down, up)])),
  links: linksOn(world, "sector"),
});

test("airtime is what each asks for over what each can get, by direction", () => {
  const { world } = busy(3, 20, 5);
  const { summaries, links } = told(world, [
    ["access", 100, 50],
    ["l1", 40, 10],
    ["l2", 10, 20],
  ]);
  expect(sectorAirtime(world, links, summaries)).toEqual({
    down: 20 / 100 + 20 / 40 + 20 / 10,
    up: 5 / 50 + 5 / 10 + 5 / 20,
    unreached: 0,
  });
});

test("who can get nothing counts as not reached rather than as endless time", () => {
  const { world } = busy(3, 20, 5);
  const { summaries, links } = told(world, [
    ["access", 100, 50],
    ["l1", 0, 10],
  ]);
  expect(sectorAirtime(world, links, summaries)).toEqual({ down: 0.2, up: 0.1, unreached: 1 });
  const asksNothing = busy(2, 0, 0).world;
  const none = told(asksNothing, [["access", 0, 0]]);
  expect(sectorAirtime(asksNothing, none.links, none.summaries)).toEqual({ down: 0, up: 0, unreached: 0 });
});

test("a sector is out of airtime from just over one, in either direction; one customer alone never makes it so", () => {
  const fault = (rates: [string, number, number][], count = 2) => {
    const { world } = busy(count, 20, 5);
    const { summaries } = told(world, rates);
    return checkOf("airtime").ofPlan!(world, summaries, backhaulOf(world, summaries))[0];
  };
  expect(
    fault([
      ["access", 40, 50],
      ["l1", 40, 50],
    ]),
  ).toBeUndefined();
  const down = fault([
    ["access", 40, 50],
    ["l1", 39, 50],
  ]);
  expect(down!.what).toBe("2 customers ask for 1.0 times its airtime toward them and 0.2 times back");
  const up = fault([
    ["access", 400, 6],
    ["l1", 400, 7],
  ]);
  expect(up!.what).toBe("2 customers ask for 0.1 times its airtime toward them and 1.5 times back");
  // Looked at first is the slowest; hurt are all.
  expect(down!.linkId).toBe("l1");
  expect(down!.people).toBe(6);
  expect(linksOf(down!)).toEqual(["access", "l1"]);
  expect(down!).toMatchObject({ radioId: "sector", cause: null, about: [{ kind: "radios", id: "sector" }, {}, {}] });
  expect(fault([["access", 10, 5]], 1)).toBeUndefined();
  const unreached = fault([
    ["access", 10, 50],
    ["l1", 0, 50],
  ]);
  expect(unreached!.what).toContain("2.0 times its airtime toward them");
  expect(unreached!.what).toMatch(/; 1 more is not reached and not counted$/);
});

test("first a wider channel; each remedy says airtime, customers served before and after, and its price", () => {
  const made = busy(4, 30, 3);
  const [first] = fullSectorWays(made.world, "sector", { profileBetween: made.between, checksOf });
  expect(first!.label).toMatch(/^Change the channel of sector, (40|80) MHz wide instead of 20, at \d{4} MHz$/);
  expect(first!.effect).toMatch(/^0\.\d\d of the airtime at most; 4 of 4 customers served \(4 before\)$/);
  const after = withPatches(made.world, first!.patches);
  const radios = [...after.radios.values()].filter(({ id }) => id === "sector" || /^(r\d|farm)/.test(id));
  expect(new Set(radios.map(({ widthMHz }) => widthMHz)).size).toBe(1);
  expect(new Set(radios.map(({ frequencyMHz }) => frequencyMHz)).size).toBe(1);
});

test("where a channel cannot be wider, sectors are added: each customer on one of them, hung apart, with price and mounts", () => {
  const oneWidth = (rows: ValleyRows) => {
    for (const item of rows.equipment)
      if (item.kind === "radio" && item.id === radioIn(rows, "sector").radioModelId)
        item.body = { ...item.body, widthsMHz: [20] };
  };
  const made = busy(6, 16, 2, (rows) => {
    oneWidth(rows);
    rows.sites[0]!.freeMounts = 0;
  });
  const [first] = fullSectorWays(made.world, "sector", { profileBetween: made.between, checksOf });
  expect(first!.label).toMatch(/^Split sector into [23] sectors by bearing, at \d{4}( and \d{4})+ MHz$/);
  expect(first!.effect).toMatch(/6 of 6 customers served \(6 before\); \+€\d+; west has 0 mounts left$/);
  const after = withPatches(made.world, first!.patches);
  const sectors = [...after.radios.values()].filter(({ role }) => role === "sector");
  const groups = sectors.map(({ id }) => linksOn(after, id).length);
  expect(groups.reduce((sum, count) => sum + count, 0)).toBe(6);
  expect(Math.min(...groups)).toBeGreaterThan(0);
  const by = (key: keyof Radio) => sectors.map((radio) => radio[key]);
  expect(new Set(by("frequencyMHz")).size).toBe(sectors.length);
  expect(new Set(by("heightM")).size).toBe(sectors.length);
  expect(
    by("address")
      .slice(1)
      .every((address) => address === ""),
  ).toBe(true);
  // Who changes sector is to be set up anew.
  const moved = [...after.links.values()].filter(({ aRadioId }) => /^sector-/.test(aRadioId));
  expect(moved.every(({ state }) => state === "planned")).toBe(true);
  const { findings } = reviewPlan(after, made.between, 0);
  expect(findings.filter(({ check: kind }) => kind === "airtime" || kind === "ownNoise")).toEqual([]);
});

test("some customers are served from a second site that is fed and has a mount left, half of the time with them", () => {
  const made = (change: (rows: ValleyRows) => void = () => undefined) =>
    busy(6, 16, 2, (rows) => {
      // Two of them live beside the other mast.
      for (const id of ["s4", "s5"]) rows.subscribers.find((one) => one.id === id)!.lonDeg = 20.1;
      change(rows);
    });
  const ways = ({ world, between }: ReturnType<typeof made>) =>
    fullSectorWays(world, "sector", { profileBetween: between, checksOf });
  const plan = made();
  const last = ways(plan).at(-1)!;
  expect(last.label).toMatch(/^Serve [2-4] of its customers from east: a sector there at \d+°, on \d{4} MHz$/);
  expect(last.effect).toMatch(/6 of 6 customers served/);
  const after = withPatches(plan.world, last.patches);
  const added = [...after.radios.values()].find(({ siteId, role }) => siteId === "east" && role === "sector")!;
  const moved = linksOn(after, added.id);
  expect(moved.map(({ id }) => id)).toEqual(expect.arrayContaining(["l4", "l5"]));
  expect(moved.every(({ state }) => state === "planned")).toBe(true);
  expect(moved.length + linksOn(after, "sector").length).toBe(6);
  expect(added.azimuthDeg).toBeGreaterThan(180);
  const elsewhere = (change: (rows: ValleyRows) => void) =>
    ways(made(change)).filter(({ label }) => label.startsWith("Serve"));
  expect(elsewhere((rows) => void (rows.sites[1]!.freeMounts = 1))).toEqual([]);
  expect(elsewhere((rows) => void (rows.links = rows.links.filter(({ kind }) => kind !== "bridge")))).toEqual([]);
});

test("what the spectrum cannot give is not promised", () => {
  const made = busy(8, 400, 100);
  expect(fullSectorWays(made.world, "sector", { profileBetween: made.between, checksOf })).toEqual([]);
});

test("arcs are cut so that the heaviest is as light as can be", () => {
  expect(evenArcs([5, 1, 1, 1, 5], 2)).toEqual([
    [0, 3],
    [3, 5],
  ]);
  expect(evenArcs([9, 1, 1], 3)).toEqual([
    [0, 1],
    [1, 3],
  ]);
  expect(evenArcs([2], 4)).toEqual([[0, 1]]);
});
