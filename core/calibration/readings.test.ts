import { expect, test } from "@jest/globals";
import { correctionOf, type Learned } from "#core/learn";
import { answering } from "#core/outcome";
import { putPatch, withPatches, type Alarm, type Measurement, type World, USUAL } from "#core/plan";
import { promisedBy } from "#core/proof";
import { valley } from "#core/testing";
import {
  DAY_MS,
  otherSeasonOf,
  promisedOnDbm,
  watchedOf,
  type LinkAlarm,
  type LinkDay,
  type LinkWatch,
  type WatchedLink,
} from "#core/watch";
import { learnableOf } from "#core/calibration";
import { readingsOf, readOf } from "./readings";

const DEPTH_M = 20;
/** The valley's bridge through trees set by hand, in a plan of a season. */
function wooded(season: "inLeaf" | "bare", learned: Learned | null = null) {
  const { world, between } = valley(0, (rows) => {
    Object.assign(rows.plan, { season, learned });
    rows.links.find(({ id }) => id === "bridge")!.foliageDepthM = DEPTH_M;
  });
  const link = world.links.get("bridge")!;
  const answer = answering(world, between)(link);
  return { world, answer, learnable: learnableOf(world, link, answer)! };
}
type Wooded = ReturnType<typeof wooded>;
const bare = wooded("bare");
const inLeaf = wooded("inLeaf");
/** South of the equator: summer in January, winter in July. */
const [SUMMER, WINTER] = ["2026-01-20T10:00:00Z", "2026-07-20T10:00:00Z"];
const dayOf = (text: string) => Math.floor(Date.parse(text) / DAY_MS);

/** A proof that stood so far over what a plan promises, held against what a plan promised then. */
function proven({ world, answer }: Wooded, measuredAt: string, offDb: number, promised = answer): World {
  const { aToB, bToA } = answer.path!;
  const proof: Measurement = {
    ...{ id: "m", planId: "valley", linkId: "bridge", measuredAt, measuredBy: "Ana", notes: "" },
    ...{ levelA0Dbm: bToA.chainLevelDbm + offDb, levelA1Dbm: null },
    ...{ levelB0Dbm: aToB.chainLevelDbm + offDb, levelB1Dbm: null },
    ...{ noiseADbm: null, noiseBDbm: null, downMbps: null, upMbps: null },
    ...USUAL.measurements,
    ...promisedBy(world.plan, promised.path!),
  };
  return withPatches(world, [putPatch("measurements", proof)]);
}
const week = (lastDay: string, deviationDb: number, otherSeason?: LinkWatch["otherSeason"]): LinkWatch => ({
  ...{ linkId: "bridge", state: "asPromised", lastDay: dayOf(lastDay), deviationDb, levelDbm: { a: null, b: null } },
  ...{ noiseDbm: { a: null, b: null }, rateShare: null, upPercent: null, goodPercent: null, worstMonth: null },
  ...{ months: [], promised: {} as LinkWatch["promised"], ...(otherSeason ? { otherSeason } : {}) },
});
const read = ({ learnable }: Wooded, world: World, weeks: LinkWatch[] = []) =>
  readingsOf(world, [learnable], readOf(world, weeks));

test("a proof of bare trees is held against bare trees, whatever season the plan is made for", () => {
  const leafDb = inLeaf.learnable.leafDb;
  expect(leafDb).toBeGreaterThan(2);
  expect(bare.learnable.leafDb).toBeCloseTo(leafDb, 9);
  expect(inLeaf.learnable.path.treesDb - bare.learnable.path.treesDb).toBeCloseTo(leafDb, 9);
  for (const [plan, offDb] of [
    [bare, 1.5],
    [inLeaf, leafDb + 1.5],
  ] as const) {
    const [one, ...others] = read(plan, proven(plan, WINTER, offDb));
    expect(others).toEqual([]);
    expect(one).toMatchObject({ linkId: "bridge", from: "proof", leaves: 0, share: 1 });
    expect(one!.errorDb).toBeCloseTo(1.5, 6);
    expect(one!.path.inLeafShare).toBe(0);
    expect(one!.path.treesDb).toBeCloseTo(bare.learnable.path.treesDb, 9);
  }
  const [summer] = read(bare, proven(bare, SUMMER, 1.5 - leafDb));
  expect(summer!.errorDb).toBeCloseTo(1.5, 6);
  expect(summer!.path.inLeafShare).toBe(1);
  expect(summer!.path.treesDb).toBeCloseTo(inLeaf.learnable.path.treesDb, 9);
});

test("what was learned of trees in leaf comes and goes with the leaves, in what is promised and in what is read", () => {
  const term = (key: string, value: number) => ({ key, value, sd: 0.1, readings: 5 });
  const learned: Learned = {
    ...{ isOn: true, strayDb: 2, readings: 5 },
    terms: [
      term("everywhere", 1),
      term("trees 3 to 10 GHz", -0.2),
      term("trees 3 to 10 GHz, in leaf", -0.3),
      term("trees 3 to 10 GHz, bare", 0.1),
    ],
  };
  const [summer, winter] = [wooded("inLeaf", learned), wooded("bare", learned)];
  const level = ({ answer }: Wooded) => answer.path!.aToB.chainLevelDbm;
  for (const plan of [summer, winter]) {
    const promised = watchedOf(plan.world, plan.world.links.get("bridge")!, plan.answer)!;
    expect(promisedOnDbm(promised, "b", dayOf(SUMMER))).toBeCloseTo(level(summer), 9);
    expect(promisedOnDbm(promised, "b", dayOf(WINTER))).toBeCloseTo(level(winter), 9);
    // What stood a decibel under a promise stood under physics by that and by what was learned of its season.
    const [now, other] = read(plan, plan.world, [week(WINTER, -1, { leaves: 1, deviationDb: -1 })]);
    expect(now!.errorDb).toBeCloseTo(-1 + correctionOf(learned, now!.path).db, 9);
    expect(other!.errorDb).toBeCloseTo(-1 + correctionOf(learned, other!.path).db, 9);
    expect(correctionOf(learned, other!.path).db).toBeLessThan(correctionOf(learned, now!.path).db - 2);
  }
  const off = wooded("inLeaf", { ...learned, isOn: false });
  expect(off.learnable.leafLearnedDb).toBe(0);
});

test("a plan turned from one season to the other keeps its proofs; one rebuilt since does not", () => {
  const { leafDb } = bare.learnable;
  // Kept while the plan was of the other season.
  expect(read(bare, proven(bare, WINTER, 0, inLeaf.answer))).toHaveLength(1);
  expect(read(inLeaf, proven(inLeaf, WINTER, leafDb, bare.answer))).toHaveLength(1);
  const rebuilt = proven(bare, WINTER, 0);
  const [kept] = [...rebuilt.measurements.values()];
  const off = (db: number) => {
    const before = { expectedADbm: kept!.expectedADbm + db, expectedBDbm: kept!.expectedBDbm + db };
    return read(bare, withPatches(rebuilt, [putPatch("measurements", { ...kept!, ...before })]));
  };
  expect(off(2.9)).toHaveLength(1);
  expect(off(3.1)).toHaveLength(0);
  expect(off(-leafDb - 2.9)).toHaveLength(1);
  expect(off(-leafDb - 3.1)).toHaveLength(0);
});

test("the watch teaches of both seasons, each for half a reading; a proof goes before it", () => {
  const both = week(WINTER, -1, { leaves: 0.9, deviationDb: -4 });
  const watched = read(inLeaf, inLeaf.world, [both]);
  expect(watched.map(({ from, errorDb, leaves, share }) => [from, errorDb, leaves, share])).toEqual([
    ["watch", -1, 0, 0.5],
    ["watch", -4, 0.9, 0.5],
  ]);
  expect(watched[1]!.path.inLeafShare).toBeCloseTo(0.9, 9);
  expect(watched[1]!.path.treesDb - watched[0]!.path.treesDb).toBeCloseTo(0.9 * inLeaf.learnable.leafDb, 9);
  // Of a proof in winter the watch's summer is the other season, and its winter is not.
  const withProof = read(inLeaf, proven(inLeaf, WINTER, inLeaf.learnable.leafDb), [both]);
  expect(withProof.map(({ from, leaves }) => [from, leaves])).toEqual([
    ["proof", 0],
    ["watch", 0.9],
  ]);
  const withSummer = read(inLeaf, proven(inLeaf, SUMMER, 0), [both]);
  expect(withSummer.map(({ from, leaves }) => [from, leaves])).toEqual([
    ["proof", 1],
    ["watch", 0],
  ]);
  // A link in the open has no seasons.
  const { world, between } = valley();
  const learnable = learnableOf(
    world,
    world.links.get("bridge")!,
    answering(world, between)(world.links.get("bridge")!),
  )!;
  expect(readingsOf(world, [learnable], readOf(world, [both]))).toMatchObject([
    { leaves: null, share: 1, errorDb: -1 },
  ]);
});

test("a link that strayed teaches nothing, unless all that strayed is its prediction", () => {
  const alarm = (kind: Alarm["kind"], state: Alarm["state"] = "open") =>
    read(bare, { ...bare.world, alarms: new Map([["x", { kind, state, linkIds: ["bridge"] } as Alarm]]) }, [
      week(WINTER, -5),
    ]);
  expect(alarm("level")).toEqual([]);
  expect(alarm("level", "closed")).toHaveLength(1);
  expect(alarm("prediction")).toMatchObject([{ errorDb: -5 }]);
});

const LINK = { leafDb: 4, latDeg: -38 } as WatchedLink;
const end = (residualDb: number | null) => ({ residualDb }) as LinkDay["a"];
/** From the middle of one summer on, so many days, each off by what `off` says of it. */
const daysOff = (count: number, off: (day: number) => number | null): LinkDay[] =>
  Array.from({ length: count }, (_, i) => {
    const day = dayOf(SUMMER) + i;
    return { day, a: end(off(day)), b: end(off(day)) } as LinkDay;
  });

test("what a link did at the other time of the year is the median of those days, without those that strayed or lie before a change", () => {
  // South of the equator the leaves of January are down by June.
  const winterFrom = dayOf("2026-05-20T00:00:00Z");
  const days = daysOff(180, (day) => (day >= winterFrom ? -1 : -3));
  const found = otherSeasonOf(LINK, days, [], [])!;
  expect(found.deviationDb).toBe(-3);
  expect(found.leaves).toBeGreaterThan(0.9);
  expect(found.leaves).toBeLessThanOrEqual(1);
  expect(otherSeasonOf({ ...LINK, leafDb: 0 }, days, [], [])).toBeNull();
  expect(otherSeasonOf(LINK, days, [], [dayOf("2026-05-01T00:00:00Z")])).toBeNull();
  const alarm = { sinceDay: dayOf(SUMMER), endedDay: dayOf(SUMMER) + 60 } as LinkAlarm;
  const cut = otherSeasonOf(
    LINK,
    daysOff(180, (day) => (day <= dayOf(SUMMER) + 60 ? -9 : -2)),
    [alarm],
    [],
  )!;
  expect(cut.deviationDb).toBe(-2);
  expect(otherSeasonOf(LINK, days, [{ ...alarm, endedDay: null }], [])).toBeNull();
  expect(otherSeasonOf(LINK, days, [{ ...alarm, endedDay: null, kind: "prediction" }], [])).toEqual(found);
  // Seven days say something, from the day after a change on, and beside those on which it strayed.
  const first = dayOf(SUMMER);
  const summerDays = (count: number) => daysOff(180, (day) => (day < first + count || day >= winterFrom ? -2 : null));
  const told = (count: number, from: number | null, strayed: [since: number, ended: number] | null) =>
    otherSeasonOf(
      LINK,
      summerDays(count),
      strayed ? [{ sinceDay: first + strayed[0], endedDay: first + strayed[1] } as LinkAlarm] : [],
      from === null ? [] : [first + from],
    );
  expect([told(7, null, null)?.deviationDb, told(6, null, null)]).toEqual([-2, null]);
  expect([told(8, 0, null)?.deviationDb, told(7, 0, null)]).toEqual([-2, null]);
  expect([told(10, null, [0, 2])?.deviationDb, told(10, null, [0, 3])]).toEqual([-2, null]);
  expect([told(10, null, [7, 20])?.deviationDb, told(10, null, [6, 20])]).toEqual([-2, null]);
  // A month of one season tells of that alone.
  expect(
    otherSeasonOf(
      LINK,
      daysOff(30, () => -3),
      [],
      [],
    ),
  ).toBeNull();
  // Days of which nothing is known do not count.
  expect(
    otherSeasonOf(
      LINK,
      daysOff(180, (day) => (day < dayOf(SUMMER) + 6 || day >= winterFrom ? 0 : null)),
      [],
      [],
    ),
  ).toBeNull();
});
