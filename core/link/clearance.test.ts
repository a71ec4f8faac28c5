import { expect, test } from "@jest/globals";
import {
  checkClearance,
  clearanceConditions,
  clearanceOf,
  shortfallText,
  wantedText,
  type ClearanceCheck,
} from "#core/link";
import { coverCode, type Profile } from "#core/terrain";
import { isClearBut, type Ray } from "./clearance";

const EARTH_KM = 6371;
const SIXTY = { kFactor: 4 / 3, wantedShare: 0.6 };
/** Radius of the first zone, m, by hand: √(λ·d1·d2/d). */
const radiusM = (fromKm: number, pathKm: number, frequencyGHz: number) =>
  Math.sqrt(((299.792458 / frequencyGHz / 1000) * fromKm * (pathKm - fromKm) * 1000) / pathKm);
const bulgeM = (fromKm: number, pathKm: number, k = 4 / 3) => (1000 * fromKm * (pathKm - fromKm)) / (2 * k * EARTH_KM);

/** Ten kilometres over ground at 50 m, sampled at `distancesKm`, with things of some height at some of the samples. */
function rayOver(
  stands: Partial<Record<number, number>>,
  ends: [aM: number, bM: number],
  { frequencyGHz = 5.8, kind = "building" as "building" | "wood" } = {},
): Ray {
  const distancesKm = Float64Array.of(0, 2, 4, 5, 8, 10);
  const heights = Array.from(distancesKm, (_, i) => stands[i] ?? 0);
  const ground = new Float64Array(6).fill(50);
  const profile: Profile = {
    from: { latDeg: 0, lonDeg: 0 },
    to: { latDeg: 0, lonDeg: 0.09 },
    distanceM: 10_000,
    azimuthDeg: 90,
    backAzimuthDeg: 270,
    distancesKm,
    latDeg: new Float64Array(6),
    lonDeg: new Float64Array(6),
    groundAmslM: ground,
    coverHeightM: Float64Array.from(heights),
    coverCode: Uint8Array.from(heights, (height) => (height > 0 ? coverCode(kind) : 0)),
    coverFrame: null,
    runEdges: null,
    holes: null,
  };
  return {
    profile,
    heightsM: Float64Array.from(heights, (height) => 50 + height),
    aAmslM: 50 + ends[0],
    bAmslM: 50 + ends[1],
    frequencyGHz,
  };
}

test("the share of the zone is the room under the ray over the zone's radius, by hand", () => {
  // 30 m at both ends, a house of 10 m half-way: 30 − 10 − 1.47 of bulge over a radius of 11.37 m.
  const check = checkClearance(rayOver({ 3: 10 }, [30, 30]), SIXTY);
  const radius = radiusM(5, 10, 5.8);
  expect(radius).toBeCloseTo(11.37, 2);
  expect(check.worstShare).toBeCloseTo((20 - bulgeM(5, 10)) / radius, 9);
  expect(check).toMatchObject({ isMet: true, worstIndex: 3, worstKm: 5, worstIntrusionM: 0, intrusionM: 0 });
  // 26 m of house leave 2.53 m: 0.22 of the zone, 4.29 m short of six tenths.
  const tight = checkClearance(rayOver({ 3: 26 }, [30, 30]), SIXTY);
  expect(tight.worstShare).toBeCloseTo((4 - bulgeM(5, 10)) / radius, 9);
  expect(tight.isMet).toBe(false);
  expect(tight.worstIntrusionM).toBeCloseTo(0.6 * radius - (4 - bulgeM(5, 10)), 9);
  expect(tight.intrusionM).toBe(tight.worstIntrusionM);
});

test("the ray slopes from end to end", () => {
  // From 10 to 60 m: 20 m at 2 km, 50 m at 8 km.
  const low = checkClearance(rayOver({ 1: 12 }, [10, 60]), SIXTY);
  expect([low.worstIndex, low.worstShare]).toEqual([1, expect.closeTo((8 - bulgeM(2, 10)) / radiusM(2, 10, 5.8), 9)]);
  const high = checkClearance(rayOver({ 4: 42 }, [10, 60]), SIXTY);
  expect([high.worstIndex, high.worstShare]).toEqual([4, expect.closeTo((8 - bulgeM(8, 10)) / radiusM(8, 10, 5.8), 9)]);
});

test("the least height at either end just frees the wanted share, the other end kept", () => {
  const ray = rayOver({ 1: 26 }, [30, 30]);
  const { leastHeightAM, leastHeightBM } = checkClearance(ray, SIXTY);
  const needed = 26 + bulgeM(2, 10) + 0.6 * radiusM(2, 10, 5.8);
  // At 2 km of 10 the ray takes eight tenths from a and two tenths from b.
  expect(leastHeightAM).toBeCloseTo((needed - 0.2 * 30) / 0.8, 6);
  expect(leastHeightBM).toBeCloseTo((needed - 0.8 * 30) / 0.2, 6);
  const met = (a: number, b: number) => checkClearance(rayOver({ 1: 26 }, [a, b]), SIXTY).isMet;
  expect([met(leastHeightAM + 1e-6, 30), met(leastHeightAM - 1e-6, 30)]).toEqual([true, false]);
  expect([met(30, leastHeightBM + 1e-6), met(30, leastHeightBM - 1e-6)]).toEqual([true, false]);
  // Where there is more than enough, an antenna on the ground will do, never one below it.
  expect(checkClearance(rayOver({}, [30, 200]), SIXTY).leastHeightAM).toBe(0);
});

test("where the share is worst need not be where most metres are missing: both are told", () => {
  // Close to the end the zone is thin: a wall there cuts more of it than a hill far out, which lacks more metres.
  const ray = rayOver({ 1: 30, 3: 29 }, [30, 30], { frequencyGHz: 0.9 });
  const clearance = clearanceOf(ray, [SIXTY]);
  expect([clearance.worstKm, clearance.deepestKm]).toEqual([2, 5]);
  expect(clearance.worstIntrusionM).toBeCloseTo(0.6 * radiusM(2, 10, 0.9) + bulgeM(2, 10), 6);
  expect(clearance.intrusionM).toBeCloseTo(0.6 * radiusM(5, 10, 0.9) - 1 + bulgeM(5, 10), 6);
  expect(shortfallText(clearance, { kFactor: 4 / 3 })).toBe(
    "0.04 of the zone over the line at 2.00 km, 14.8 m short of 60 %; most is missing at 5.00 km, 17.8 m",
  );
});

test("a cut line blocks, a missed share is tight, and the words say which", () => {
  const state = (houseM: number) => clearanceOf(rayOver({ 3: houseM }, [30, 30]), [SIXTY]);
  expect([state(10).state, state(26).state, state(29).state]).toEqual(["clear", "tight", "blocked"]);
  const words = (houseM: number) => shortfallText(state(houseM), { kFactor: 4 / 3 });
  expect([words(10), words(26), words(29)]).toEqual([
    "",
    "0.22 of the zone clear at 5.00 km, 4.3 m short of 60 %",
    "0.04 of the zone over the line at 5.00 km, 7.3 m short of 60 %",
  ]);
});

test("the two-condition school asks for all of the zone in usual weather and the line in the worst", () => {
  const plan = { clearanceSchool: "twoCondition", climate: "temperate", kFactor: 4 / 3 } as const;
  const [usual, worst] = clearanceConditions(plan, 20);
  expect(usual).toEqual({ kFactor: 4 / 3, wantedShare: 1 });
  expect(worst).toMatchObject({ wantedShare: 0, extendedShare: 0.3 });
  expect(worst!.kFactor).toBeLessThan(1);
  const tropical = { ...plan, climate: "tropical" } as const;
  expect(clearanceConditions(tropical, 40)[1]).toEqual({ kFactor: expect.any(Number), wantedShare: 0.6 });
  expect(clearanceConditions(tropical, 20)[1]).toMatchObject({ wantedShare: 0, extendedShare: 0.3 });
  expect(clearanceConditions({ ...plan, clearanceSchool: "sixtyPercent" }, 20)).toEqual([SIXTY]);
  const text = (wantedShare: number, kFactor: number) => wantedText({ wantedShare, kFactor }, plan);
  expect([text(0.6, 4 / 3), text(1, 4 / 3), text(0, 0.5), text(0.3, 0.5)]).toEqual([
    "60 %",
    "100 %",
    "a free line at k = 0.50",
    "30 % at k = 0.50",
  ]);
});

test("of two conditions the one that misses most binds, and heights answer both", () => {
  const ray = rayOver({ 3: 20 }, [30, 30]);
  const conditions = [
    { kFactor: 4 / 3, wantedShare: 1 },
    { kFactor: 0.2, wantedShare: 0 },
  ];
  const both = clearanceOf(ray, conditions);
  const alone = conditions.map((condition) => checkClearance(ray, condition)) as [ClearanceCheck, ClearanceCheck];
  const most = Math.max(alone[0].intrusionM, alone[1].intrusionM);
  expect(both.intrusionM).toBe(most);
  expect(both.leastHeightAM).toBe(Math.max(alone[0].leastHeightAM, alone[1].leastHeightAM));
  expect(both.leastHeightBM).toBe(Math.max(alone[0].leastHeightBM, alone[1].leastHeightBM));
  expect(both.checks.map(({ isMet }) => isMet)).toEqual(alone.map(({ isMet }) => isMet));
  // A line that only bad weather cuts is tight, not blocked.
  expect(both.state).toBe("tight");
});

test("an extended obstruction is asked for three tenths, a single edge for a free line only", () => {
  const condition = { kFactor: 4 / 3, wantedShare: 0, extendedShare: 0.3 };
  const usual = { kFactor: 4 / 3, wantedShare: 0 };
  const radius = radiusM(5, 10, 5.8);
  // A tenth of the zone free half-way: over one kilometre and a half of the path, which is more than a tenth of it.
  const stand = 30 - bulgeM(5, 10) - 0.1 * radius;
  const extended = clearanceOf(rayOver({ 3: stand }, [30, 30]), [usual, condition]).checks[1]!;
  expect([extended.wantedShare, extended.isMet]).toEqual([0.3, false]);
  const free = clearanceOf(rayOver({ 3: 10 }, [30, 30]), [usual, condition]).checks[1]!;
  expect([free.wantedShare, free.isMet]).toEqual([0, true]);
});

const isClearButTrees = (ray: Ray) => isClearBut(ray, clearanceOf(ray, [SIXTY]).checks);

test("only trees in the way: the path is clear but for them, and never but for a house", () => {
  const check = (stands: Partial<Record<number, number>>, kind: "wood" | "building") =>
    isClearButTrees(rayOver(stands, [30, 30], { kind }));
  expect(check({ 3: 35 }, "wood")).toBe(true);
  expect(check({ 3: 35 }, "building")).toBe(false);
  expect(check({ 3: 26 }, "building")).toBe(false);
  expect(check({ 3: 10 }, "building")).toBe(true);
  // The ground itself is never taken away.
  const ray = rayOver({ 3: 35 }, [30, 30], { kind: "wood" });
  ray.profile.groundAmslM[3] = 82;
  expect(isClearButTrees(ray)).toBe(false);
});
