import { describe, expect, test } from "@jest/globals";
import { backhaulOf } from "#core/capacity";
import { advisedWidth, changeOrder, rateChanges, widthTable, type ChannelMove, type WidthRow } from "#core/channels";
import { evaluate } from "#core/evaluate";
import { checkPatches, setPatch, withPatches } from "#core/plan";
import { town, valley } from "#core/testing";

const made = valley(12, (rows) => {
  town(rows);
  for (const site of rows.sites) site.isFeed = ["west", "north-east"].includes(site.id);
});
const { world, between } = made;
const { summaries } = evaluate(world, between);
const move = (radioId: string, fromMHz: number, toMHz: number): ChannelMove => ({
  ...{ radioId, name: radioId, fromMHz, toMHz },
});

describe("a change of channels on a live network", () => {
  const tree = backhaulOf(world, summaries);
  const orderOf = (moves: ChannelMove[]) => changeOrder(world, moves, tree).map((step) => step.move.radioId);

  test("begins farthest from the feed: the sector before the bridge that feeds it, in whatever order they are given", () => {
    const moves = [move("nw", 5200, 5500), move("sector", 5300, 5600), move("sector-2", 5200, 5540)];
    expect(orderOf(moves)).toEqual(["sector-2", "nw", "sector"]);
    expect(orderOf([...moves].reverse())).toEqual(["sector-2", "nw", "sector"]);
  });

  test("takes the radios of a step from the feed's far side inward, whichever end the plan writes first", () => {
    const [sector, bridge] = changeOrder(world, [move("nw", 5200, 5500), move("sector-2", 5200, 5540)], tree);
    expect(sector!.radioIds).toEqual(["r0", "r1", "r2", "sector-2"]);
    // This bridge is written from its far end.
    expect(world.links.get("second")).toMatchObject({ aRadioId: "nw", bRadioId: "ne" });
    expect(bridge!.radioIds).toEqual(["nw", "ne"]);
    const fromWest = withPatches(world, [
      setPatch("sites", "north-west", { isFeed: true }),
      setPatch("sites", "north-east", { isFeed: false }),
    ]);
    const [turned] = changeOrder(fromWest, [move("nw", 5200, 5500)], backhaulOf(fromWest, summaries));
    expect(turned!.radioIds).toEqual(["ne", "nw"]);
  });

  test("tells who is down meanwhile: a sector's customers, all behind a bridge", () => {
    const [sector, bridge] = changeOrder(world, [move("nw", 5200, 5500), move("sector-2", 5200, 5540)], tree);
    expect([sector!.customersDown, sector!.peopleDown]).toEqual([3, 9]);
    expect([bridge!.customersDown, bridge!.peopleDown]).toEqual([3, 9]);
  });

  test("lets whoever frees a channel go first, and says where two share one meanwhile", () => {
    const twoFeeds = withPatches(world, [setPatch("sites", "north-west", { isFeed: true })]);
    const flat = backhaulOf(twoFeeds, summaries);
    const steps = (moves: ChannelMove[]) => changeOrder(twoFeeds, moves, flat);
    const chain = steps([move("sector", 5200, 5500), move("sector-2", 5500, 5800)]);
    expect(chain.map((step) => step.move.radioId)).toEqual(["sector-2", "sector"]);
    expect(chain.flatMap(({ meanwhileMeets }) => meanwhileMeets)).toEqual([]);
    const swap = steps([move("sector", 5200, 5500), move("sector-2", 5500, 5200)]);
    expect(swap[0]!.meanwhileMeets).toEqual([swap[1]!.move.name]);
    expect(swap[1]!.meanwhileMeets).toEqual([]);
  });
});

describe("a sector's widths", () => {
  const rows = widthTable(world, "sector-2", between);

  test("are each what the whole plan bears out, the present one among them", () => {
    expect(rows.filter(({ isNow }) => isNow)).toHaveLength(1);
    expect(rows.length).toBeGreaterThan(1);
    for (const { widthMHz, frequencyMHz, patches, served, slowed, customers, leastSnrDb } of rows) {
      expect(checkPatches(world, patches)).toEqual([]);
      const then = withPatches(world, patches);
      expect(then.radios.get("sector-2")).toMatchObject({ widthMHz, frequencyMHz });
      const after = evaluate(then, between);
      const own = [...then.links.values()].filter(({ aRadioId }) => aRadioId === "sector-2");
      expect(customers).toBe(own.length);
      expect(served).toBe(own.filter(({ id }) => after.summaries.get(id)!.served).length);
      const snrs = own.flatMap(({ id }) => {
        const { aToB, bToA } = after.answers.get(id)!.path!;
        return [aToB.snrDb, bToA.snrDb];
      });
      expect(leastSnrDb).toBeCloseTo(Math.min(...snrs), 9);
      const slower = [...then.links.keys()].filter((id) => {
        const [was, is] = [summaries.get(id)!, after.summaries.get(id)!];
        return !own.some((link) => link.id === id) && (is.downMbps < was.downMbps || is.upMbps < was.upMbps);
      });
      expect(slowed).toBe(slower.length);
    }
    expect(() => widthTable(world, "none", between)).toThrow('There is no radio "none" in the plan.');
  });

  test("the narrowest that is enough and slows nobody is advised; where none is enough, the one with least to wait for", () => {
    const row = (widthMHz: number, rest: Partial<WidthRow>): WidthRow => ({
      ...rows[0]!,
      unreached: 0,
      served: 3,
      slowed: 0,
      widthMHz,
      ...rest,
    });
    const [narrow, middle, wide] = [row(10, { load: 1.4 }), row(20, { load: 0.8 }), row(40, { load: 0.4 })];
    expect(advisedWidth([narrow, middle, wide])!.row).toBe(middle);
    expect(advisedWidth([narrow, { ...middle, slowed: 2 }, wide])!.row).toBe(wide);
    expect(advisedWidth([narrow, row(20, { load: 1.2 })])!.row.widthMHz).toBe(20);
    expect(advisedWidth([{ ...middle, served: 2 }, wide])!.row).toBe(wide);
    expect(advisedWidth([])).toBeNull();
  });
});

test("rates that move are counted by link, on balance of both directions", () => {
  const [one, two, three] = ["l0", "l1", "l2"].map((id) => summaries.get(id)!);
  const after = new Map(summaries)
    .set("l0", { ...one!, downMbps: one!.downMbps * 2 })
    .set("l1", { ...two!, downMbps: two!.downMbps / 2, upMbps: two!.upMbps * 1.1 })
    .set("l2", { ...three! });
  expect(rateChanges(world, summaries, after)).toMatchObject({ faster: 1, slower: 1 });
  expect(rateChanges(world, summaries, summaries)).toMatchObject({ faster: 0, slower: 0 });
});
