import { expect, test } from "@jest/globals";
import {
  alarmsOf,
  AT,
  emptyBuckets,
  hourState,
  joinedHours,
  linkDays,
  METRIC_COUNT,
  skyDays,
  toldSpan,
  watchSummary,
  type HourSeries,
  type WatchedLink,
} from "#core/watch";
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
  ...{
    rateMbps: { a: 100, b: 100 },
    bandDb: 4,
    latDeg: 40,
    leafDb: 0,
    offDeg: { a: { azimuthDeg: 0, elevationDeg: 0 }, b: { azimuthDeg: 0, elevationDeg: 0 } },
    isSolar: { a: false, b: false },
  },
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

test("a series may be laid out for as long as it tells: its days and sums are those of the whole time", () => {
  const pieces = [DAY + 1, DAY + 3].map(piece);
  const span = toldSpan(DAY * 24, DAYS * 24, pieces);
  expect(span).toEqual([(DAY + 1) * 24, (DAY + 4) * 24]);
  expect(toldSpan(DAY * 24, DAYS * 24, [])).toEqual([DAY * 24, DAY * 24]);
  expect(toldSpan(DAY * 24, DAYS * 24, [piece(DAY - 1)])).toEqual([DAY * 24, DAY * 24]);
  expect(toldSpan((DAY + 1) * 24 + 6, 30, pieces)).toEqual([(DAY + 1) * 24 + 6, (DAY + 2) * 24]);
  const short = joinedHours(span[0], span[1] - span[0], pieces);
  expect(short.hours.slots).toBe(72);
  const [whole, weather] = [over(DAY + 1, DAY + 3), over()];
  const shared = { weather, asked: over(DAY, DAY + 1, DAY + 2) };
  const skies = skyDays(shared, DAY, DAY + DAYS);
  const [given, cut] = [
    { a: whole, b: over(), ...shared },
    { a: short, b: joinedHours(DAY * 24, 0, []), ...shared },
  ];
  const days = linkDays(link, given);
  expect(linkDays(link, cut, skies)).toEqual(days);
  expect(watchSummary(link, cut, linkDays(link, cut, skies))).toEqual(watchSummary(link, given, days));
});

test("once it has reported, a link is asked for as many hours as anything else of the plan reported in; before, for none", () => {
  const looked = ({ toldHours: _told, ...series }: HourSeries): HourSeries => series;
  const asked = over(DAY, DAY + 2, DAY + 3);
  for (let cell = 0; cell < 24 * METRIC_COUNT; cell++)
    asked.hours.count[cell] = Number(cell % METRIC_COUNT === AT.seriesTold && cell < 10 * METRIC_COUNT);
  for (let hour = 2 * 24; hour < 4 * 24; hour++) asked.hours.count[hour * METRIC_COUNT + AT.seriesTold] = 1;
  const given = { a: over(DAY + 2), b: over(), weather: over(), asked };
  // Two days before it first reported, ten hours of the plan: they say nothing of it.
  const told = watchSummary(link, given);
  expect(told).toEqual(watchSummary(link, { ...given, a: looked(given.a), b: looked(given.b) }));
  expect(told.months.reduce((sum, { hoursAsked }) => sum + hoursAsked, 0)).toBe(48);
});

test("days before anything was told raise nothing and move no alarm", () => {
  const far = { ...link, levelDbm: { a: -40, b: -40 } };
  const pieces = Array.from({ length: 40 }, (_, i) => piece(DAY + 30 + i));
  const long = joinedHours(DAY * 24, 70 * 24, pieces);
  const [from, to] = long.toldHours;
  const short = joinedHours(from, to - from, pieces);
  const alarms = (series: HourSeries) =>
    alarmsOf(far, linkDays(far, { a: series, b: series, weather: over(), asked: null }));
  expect(alarms(long).length).toBeGreaterThan(0);
  expect(alarms(long)).toEqual(alarms(short));
  expect(alarms(long)[0]!.sinceDay).toBe(DAY + 30);
  expect(alarmsOf(far, linkDays(far, { a: over(), b: over(), weather: over(), asked: null }))).toEqual([]);
});

test("an hour in which one minute of sixty was told is a sixtieth of an hour up, in sum, month and calendar alike", () => {
  const one = piece(DAY + 2);
  for (let h = 0; h < 24; h++)
    for (const metric of ["level0Dbm", "uptimeMin"] as const)
      one.hours.count[h * METRIC_COUNT + AT[metric]] = h === 23 ? 1 : h === 22 ? 0 : 60;
  const a = joinedHours(DAY * 24, DAYS * 24, [one]);
  const asked = over();
  for (let hour = 0; hour < 3 * 24; hour++) {
    const cell = hour * METRIC_COUNT + AT.seriesTold;
    asked.hours.count[cell] = 60;
    asked.hours.least[cell] = asked.hours.mean[cell] = asked.hours.most[cell] = 1;
  }
  const { toldHours: _told, ...askedAll } = asked;
  const given = { a, b: over(), weather: over(), asked: askedAll };
  const told = watchSummary(link, given);
  const upHours = 22 + 1 / 60;
  expect(told.months.reduce((sum, { hoursUp }) => sum + hoursUp, 0)).toBeCloseTo(upHours, 9);
  // Two days before its first word are not asked of it.
  expect(told.months.reduce((sum, { hoursAsked }) => sum + hoursAsked, 0)).toBe(24);
  expect(told.upPercent).toBeCloseTo((100 * upHours) / 24, 9);
  const stateAt = (hour: number) => hourState(link, given, (DAY + 2) * 24 + hour);
  expect([stateAt(0), stateAt(22), stateAt(23)]).toEqual([3, 1, 1]);
});
