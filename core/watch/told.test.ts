import { expect, test } from "@jest/globals";
import { AT, emptyBuckets, joinedHours, linkDays, METRIC_COUNT, type HourSeries, type WatchedLink } from "#core/watch";
import { figureAt } from "./days";

const DAY = 20_000;
const DAYS = 5;
/** One day of levels and uptime, with a restart in it. */
function piece(day: number): HourSeries {
  const hours = emptyBuckets(24);
  for (let h = 0; h < 24; h++)
    for (const [metric, value] of [
      ["level0Dbm", -60 - (h % 3)],
      ["uptimeMin", h < 12 ? 1000 + 60 * h : 60 * (h - 12)],
    ] as const) {
      const cell = h * METRIC_COUNT + AT[metric];
      hours.least[cell] = hours.mean[cell] = hours.most[cell] = value;
      hours.count[cell] = 1;
    }
  return { fromHour: day * 24, hours };
}
const over = (...days: number[]) => joinedHours(DAY * 24, DAYS * 24, days.map(piece));
const link: WatchedLink = {
  ...{ linkId: "one", chains: 1, levelDbm: { a: -58, b: -58 }, noiseDbm: { a: -92, b: -92 } },
  ...{ rateMbps: { a: 100, b: 100 }, bandDb: 4, latDeg: 40, leafDb: 0, isSolar: { a: false, b: false } },
  ...{ availabilityPercent: 99.9, worstMonthPercent: 99, availabilityBound: null },
};

test("the hours of which something is told reach from the first piece to the last, and are none without any", () => {
  expect(over(DAY + 1, DAY + 3).toldHours).toEqual([(DAY + 1) * 24, (DAY + 4) * 24]);
  const [from, to] = over().toldHours;
  expect(from).toBeGreaterThanOrEqual(to);
  expect(over(DAY - 7).toldHours).toEqual(over().toldHours);
});

test("what is passed over because nothing was told of it is what looking at it would say", () => {
  const looked = ({ toldHours: _told, ...series }: HourSeries): HourSeries => series;
  const [a, b, weather] = [over(DAY + 2), over(), over()];
  const days = linkDays(link, { a, b, weather, asked: null });
  expect(days).toEqual(linkDays(link, { a: looked(a), b: looked(b), weather: looked(weather), asked: null }));
  expect(days.map((day) => day.a.hoursKnown)).toEqual([0, 0, 24, 0, 0]);
  expect(days[2]!.a.restarts).toBe(1);
  for (let hour = DAY * 24 - 1; hour <= (DAY + DAYS) * 24; hour++)
    expect(figureAt(a, "mean", "level0Dbm", hour)).toBe(figureAt(looked(a), "mean", "level0Dbm", hour));
});
