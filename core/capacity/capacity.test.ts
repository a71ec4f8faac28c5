import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { accessLinks, frameAdvice, grown, loadWith, sectorLoad, usualDemand, yearsUntilFull } from "#core/capacity";
import { evaluate } from "#core/evaluate";
import { busyOf, setPatch, withPatches } from "#core/plan";
import { town, valley } from "#core/testing";

const made = valley(0, town);
const { world, between } = made;
const { summaries } = evaluate(world, between);
const SECTOR = world.links.get("l0")!.aRadioId;
const links = accessLinks(world).get(SECTOR)!;

describe("the busy hour", () => {
  test("is what all ask for over the oversubscription, never less than the largest alone, never more than all", () => {
    expect(busyOf([10, 20, 30], 1)).toBe(60);
    expect(busyOf([10, 20, 30], 1.5)).toBe(40);
    expect(busyOf([10, 20, 30], 4)).toBe(30);
    expect(busyOf([], 4)).toBe(0);
    const demands = fc.array(fc.double({ min: 0, max: 1000, noNaN: true }), { maxLength: 20 });
    fc.assert(
      fc.property(demands, fc.double({ min: 1, max: 100, noNaN: true }), (each, over) => {
        const all = each.reduce((sum, one) => sum + one, 0);
        expect(busyOf(each, over)).toBeLessThanOrEqual(all + 1e-9);
        expect(busyOf(each, over)).toBeGreaterThanOrEqual(busyOf(each, over + 1) - 1e-9);
      }),
    );
  });

  test("comes when growth has filled what is left", () => {
    expect(yearsUntilFull(0.5, 100)).toBeCloseTo(1, 12);
    expect(yearsUntilFull(0.5, 41.421356)).toBeCloseTo(2, 6);
    expect(yearsUntilFull(1.2, 10)).toBe(0);
    expect(yearsUntilFull(0.5, 0)).toBeNull();
    expect(yearsUntilFull(0, 10)).toBeNull();
  });

  test("asks for more in some years, by the plan's growth, and of nothing else", () => {
    const growing = withPatches(world, [setPatch("plans", "valley", { growthPercent: 50 })]);
    const then = grown(growing, 2);
    for (const [id, { demandMbps, demandUpMbps, ...rest }] of growing.subscribers) {
      const now = then.subscribers.get(id)!;
      expect([now.demandMbps, now.demandUpMbps]).toEqual([demandMbps * 2.25, demandUpMbps * 2.25]);
      expect(now).toMatchObject(rest);
    }
  });
});

describe("a sector's load", () => {
  const load = sectorLoad(world, SECTOR, links, summaries);

  test("is the sum of its customers' times, each what he asks for over what he gets alone", () => {
    expect(load.customers).toHaveLength(links.length);
    for (const one of load.customers) {
      const { demandMbps, demandUpMbps } = world.subscribers.get(one.subscriberId)!;
      const { downMbps, upMbps } = summaries.get(one.linkId)!;
      expect(one.down).toBeCloseTo(demandMbps / downMbps, 12);
      expect(one.up).toBeCloseTo(demandUpMbps / upMbps, 12);
    }
    const sum = (way: "down" | "up") => load.customers.reduce((total, one) => total + one[way], 0);
    expect(load.down).toBeCloseTo(sum("down"), 12);
    expect(load.up).toBeCloseTo(sum("up"), 12);
    expect(load.customers.reduce((total, { ofAll }) => total + ofAll, 0)).toBeCloseTo(1, 12);
    const busier = load.customers.map((one) => one[load.busier]);
    expect(busier).toEqual([...busier].sort((x, y) => y - x));
  });

  test("leaves room for as many usual customers as fill it, and not for one more", () => {
    const usual = { downMbps: 2, upMbps: 0.5 };
    const free = sectorLoad(world, SECTOR, links, summaries, usual).freeCustomers!;
    expect(free).toBeGreaterThan(0);
    const middle = (values: number[]) => values.sort((x, y) => x - y)[values.length >> 1]!;
    const each = Math.max(
      usual.downMbps / middle(load.customers.map(({ downMbps }) => downMbps)),
      usual.upMbps / middle(load.customers.map(({ upMbps }) => upMbps)),
    );
    const limit = load.mostCustomers - links.length;
    expect(free).toBe(Math.min(limit, free));
    if (free < limit) {
      expect(Math.max(load.down, load.up) + (free + 1) * each).toBeGreaterThan(1 - 1e-9);
    }
    expect(sectorLoad(world, SECTOR, links, summaries, { downMbps: 1e6, upMbps: 0 }).freeCustomers).toBe(0);
    expect(sectorLoad(world, SECTOR, [], summaries, usual).freeCustomers).toBeNull();
  });

  test("halves with an oversubscription of two as long as nobody alone takes more", () => {
    const shared = withPatches(world, [setPatch("plans", "valley", { oversubscription: 2 })]);
    const most = Math.max(...load.customers.map(({ down }) => down));
    expect(sectorLoad(shared, SECTOR, links, summaries).down).toBeCloseTo(Math.max(most, load.down / 2), 12);
  });

  test("with one customer at other rates, gone or come, is that of the sector made so", () => {
    const [first, ...others] = links;
    const rates = { downMbps: 7, upMbps: 3 };
    const then = new Map(summaries).set(first!.id, { ...summaries.get(first!.id)!, ...rates });
    const fuller = (some: typeof links, known: typeof summaries) => {
      const { down, up } = sectorLoad(world, SECTOR, some, known);
      return Math.max(down, up);
    };
    expect(loadWith(world, links, summaries, first!, rates)).toBeCloseTo(fuller(links, then), 12);
    expect(loadWith(world, others, summaries, first!, rates)).toBeCloseTo(fuller(links, then), 12);
    expect(loadWith(world, links, summaries, first!, null)).toBeCloseTo(fuller(others, summaries), 12);
  });

  test("names who is slow: much time for little, and only where there are others", () => {
    const [first] = links;
    const crawling = new Map(summaries).set(first!.id, { ...summaries.get(first!.id)!, downMbps: 1, upMbps: 1 });
    const slow = sectorLoad(world, SECTOR, links, crawling).customers.filter(({ isSlow }) => isSlow);
    expect(slow.map(({ linkId }) => linkId)).toEqual([first!.id]);
    expect(sectorLoad(world, SECTOR, [first!], crawling).customers[0]!.isSlow).toBe(false);
    const cut = new Map(summaries).set(first!.id, { ...summaries.get(first!.id)!, upMbps: 0 });
    expect(sectorLoad(world, SECTOR, links, cut)).toMatchObject({ unreached: 1 });
  });

  test("is asked of a sector that there is", () => {
    expect(() => sectorLoad(world, "none", links, summaries)).toThrow('There is no sector "none" in the plan.');
    expect(usualDemand({ ...world, subscribers: new Map() })).toBeNull();
  });
});

describe("the frame", () => {
  test("that is advised is what the tapes then bear out, and no other twentieth is better", () => {
    const advice = frameAdvice(world, SECTOR, summaries)!;
    const loadAt = (downShare: number) => {
      const then = withPatches(
        world,
        advice.carrierIds.map((id) => setPatch("carriers", id, { downShare })),
      );
      const { down, up } = sectorLoad(then, SECTOR, links, evaluate(then, between).summaries);
      return Math.max(down, up);
    };
    expect(advice.loadThen).toBeLessThanOrEqual(advice.loadNow);
    expect(loadAt(advice.downShare)).toBeCloseTo(advice.loadThen, 9);
    for (let share = 1; share < 20; share++) expect(loadAt(share / 20)).toBeGreaterThanOrEqual(advice.loadThen - 1e-9);
  });

  test("is one for all who keep time together", () => {
    const sectors = [...accessLinks(world).keys()];
    const carriers = sectors.map((id) => world.radios.get(id)!.carrierId);
    const timed = withPatches(
      world,
      carriers.map((id) => setPatch("carriers", id, { timingGroup: "all" })),
    );
    expect(frameAdvice(timed, SECTOR, summaries)!.carrierIds.sort()).toEqual([...new Set(carriers)].sort());
    expect(frameAdvice(world, SECTOR, summaries)!.carrierIds).toEqual([world.radios.get(SECTOR)!.carrierId]);
    expect(frameAdvice(world, "none", summaries)).toBeNull();
  });
});
