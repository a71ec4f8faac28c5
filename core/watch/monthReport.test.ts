import { expect, test } from "@jest/globals";
import { valley } from "#core/testing";
import { monthReport, type LinkWatch } from "#core/watch";

const NOVEMBER = (2026 - 1970) * 12 + 10;
const hours = (hoursUp: number, hoursGood: number): LinkWatch["months"][number] => ({
  ...{ month: NOVEMBER, hoursAsked: 200, hoursUp, hoursGood, deviationDb: -1.5 },
});
const watched = (linkId: string, months: LinkWatch["months"]): LinkWatch => ({
  ...{ linkId, state: "asPromised", lastDay: null, deviationDb: null, levelDbm: { a: null, b: null } },
  noiseDbm: { a: null, b: null },
  ...{ rateShare: null, upPercent: null, goodPercent: null, worstMonth: null },
  promised: {
    availabilityPercent: 99.9,
    worstMonthPercent: 99.5,
    availabilityBound: "atMost",
    levelDbm: { a: -60, b: -60 },
  },
  months,
});

test("a month names the worst link first, sums by site, and leaves out whom nobody asked", () => {
  const { world } = valley(0, (rows) => {
    rows.links.push({ ...rows.links[1]!, id: "unasked" });
  });
  const report = monthReport(world, {
    month: NOVEMBER,
    isSimulated: true,
    links: [watched("bridge", [hours(198, 190)]), watched("access", [hours(150, 150)]), watched("unasked", [])],
  });
  expect(report).toMatchObject({ name: "2026-11", isSimulated: true, linksInAll: 2, alarms: [] });
  expect(report.upPercent).toBeCloseTo(87, 9);
  expect(report.links.map(({ upPercent, goodPercent }) => [upPercent, goodPercent])).toEqual([
    [75, 75],
    [99, 95],
  ]);
  expect(report.links[0]).toMatchObject({ availabilityBound: "atMost", worstMonthPercent: 99.5, deviationDb: -1.5 });
  // The bridge's near end and the sector stand on one site.
  expect(report.sites).toEqual([{ name: world.sites.get("west")!.name, links: 2, upPercent: 87, goodPercent: 85 }]);
});

test("a month tells the alarms that stood in it, and nothing of one that ended before", () => {
  const alarm = (id: string, raisedDay: string, endedDay: string) => ({
    ...{ id, planId: "valley", linkId: "bridge", radioId: null, linkIds: ["bridge", "access"], kind: "step" as const },
    ...{ raisedDay, endedDay, sinceDay: raisedDay, changeDb: -3, people: 4, what: "3.0 dB less" },
    ...{ causes: [{ cause: "moved", odds: 0.8 }], check: "", state: "open" as const, quietUntil: "", visitId: null },
    ...{ closedWhy: "" },
  });
  const { world } = valley(0, (rows) => {
    Object.assign(rows, {
      alarms: [
        alarm("now", "2026-10-20", ""),
        alarm("before", "2026-09-01", "2026-10-30"),
        alarm("later", "2026-12-01", ""),
      ],
    });
  });
  const { alarms } = monthReport(world, { month: NOVEMBER, links: [], isSimulated: false });
  expect(alarms).toHaveLength(1);
  expect(alarms[0]).toMatch(/ and 1 more: since 2026-10-20 3\.0 dB less; likely .* \(80 %\); open\.$/);
});
