import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { backhaulOf } from "#core/capacity";
import { answerOf, summarize } from "#core/outcome";
import { busyOf, customerOf, requiredRates } from "#core/plan";
import { town, valley } from "#core/testing";

/** A town whose customers ask for anything, over bridges and sectors alike. */
const anyDemand = fc.record({
  demands: fc.array(fc.tuple(fc.integer({ min: 1, max: 90 }), fc.integer({ min: 1, max: 40 })), {
    minLength: 4,
    maxLength: 4,
  }),
  oversubscription: fc.constantFrom(1, 2, 5, 20),
  isOverBridge: fc.boolean(),
});
type Asked = typeof anyDemand extends fc.Arbitrary<infer One> ? One : never;
const townOf = ({ demands, oversubscription, isOverBridge }: Asked) =>
  valley(0, (rows) => {
    town(rows);
    rows.plan.oversubscription = oversubscription;
    rows.subscribers.forEach((one, i) => {
      const [demandMbps, demandUpMbps] = demands[i % demands.length]!;
      Object.assign(one, { demandMbps, demandUpMbps });
    });
    // A customer counts whatever kind his link is.
    if (isOverBridge) for (const link of rows.links) if (link.aRadioId === "sector") link.kind = "bridge";
    // The eastern masts feed the western ones, over bridges that are written from their far ends.
    for (const site of rows.sites) site.isFeed = site.id === "east" || site.id === "north-east";
  });

test("what customers ask for is what their hops carry, what bridges must carry, and what their feed gives", () => {
  fc.assert(
    fc.property(anyDemand, (asked) => {
      const { world, between } = townOf(asked);
      const summaries = new Map(
        [...world.links.values()].map((link) => [link.id, summarize(world, link, answerOf(world, link, between))]),
      );
      const { hops, feeds, unreached } = backhaulOf(world, summaries);
      const required = requiredRates(world);
      expect(unreached).toEqual([]);
      for (const hop of hops.filter(({ customers }) => customers > 0)) {
        const rate = required.get(hop.linkId)!;
        const isFromA = world.radios.get(world.links.get(hop.linkId)!.aRadioId)!.siteId === hop.fromSiteId;
        expect(rate.from).toBe("behind");
        expect(isFromA ? rate.downMbps : rate.upMbps).toBeCloseTo(hop.demandDownMbps, 9);
        expect(isFromA ? rate.upMbps : rate.downMbps).toBeCloseTo(hop.demandUpMbps, 9);
        expect(world.required.get(hop.linkId)).toEqual(rate);
      }
      expect(hops.map(({ customers }) => customers).sort()).toEqual([1, 3]);
      const behind = (siteId: string) =>
        [...world.links.values()].flatMap((link) => {
          const customer = customerOf(world, link);
          return customer && world.radios.get(link.aRadioId)!.siteId === siteId ? [customer.demandMbps] : [];
        });
      for (const [feedId, servedId] of [
        ["east", "west"],
        ["north-east", "north-west"],
      ]) {
        const feed = feeds.find(({ siteId }) => siteId === feedId)!;
        expect(feed.demandDownMbps).toBeCloseTo(busyOf(behind(servedId!), world.plan.oversubscription), 9);
      }
    }),
    { numRuns: 30 },
  );
});
