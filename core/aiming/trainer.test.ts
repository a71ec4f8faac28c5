import { describe, expect, test } from "@jest/globals";
import {
  beginPractice,
  lampsAt,
  lock,
  randomAt,
  readMeter,
  scoreOf,
  trueLevelDbm,
  turn,
  type Practice,
  type PracticeLink,
} from "#core/aiming";
import { firstSideLobe, patternLossDb } from "#core/antenna";
import { linkEnds } from "#core/plan";
import { valley } from "#core/testing";

const { world } = valley();
const ends = linkEnds(world, world.links.get("bridge")!);
const link: PracticeLink = { ...ends, expectedDbm: { a: -50, b: -52 } };
const aimed = (practice: Practice): Practice => ({
  ...practice,
  mounts: {
    a: { ...practice.mounts.a, azimuthDeg: 0, elevationDeg: 0 },
    b: { ...practice.mounts.b, azimuthDeg: 0, elevationDeg: 0 },
  },
});
const lobe = firstSideLobe(ends.a.antenna.azimuthCuts.V)!;

describe("a lesson", () => {
  test("begins off the peak, the same for the same seed, and at its peak has the planned level", () => {
    const practice = beginPractice(link, "plain", 7);
    expect(beginPractice(link, "plain", 7)).toEqual(practice);
    expect(beginPractice(link, "plain", 8)).not.toEqual(practice);
    expect(trueLevelDbm(link, practice, "a")).toBeLessThan(-50);
    expect(trueLevelDbm(link, aimed(practice), "a")).toBeCloseTo(-50, 9);
    expect(trueLevelDbm(link, aimed(practice), "b")).toBeCloseTo(-52, 9);
  });

  test("hides what it is about: a lobe here or at the far end, polarization, a chain, a film", () => {
    const under = (lesson: Parameters<typeof beginPractice>[1]) =>
      -50 - trueLevelDbm(link, aimed(beginPractice(link, lesson, 3)), "a");
    expect(under("crossed")).toBeCloseTo(Math.min(ends.a.antenna.crossPolarDb, ends.b.antenna.crossPolarDb), 9);
    expect(under("chainDead")).toBeCloseTo(3, 9);
    expect(under("film")).toBeCloseTo(1, 9);
    const high = { ...link, a: { ...link.a, radio: { ...link.a.radio, frequencyMHz: 73_500 } } };
    expect(-50 - trueLevelDbm(high, aimed(beginPractice(high, "film", 3)), "a")).toBeCloseTo(8, 9);
    expect(Math.abs(beginPractice(link, "sideLobe", 3).mounts.a.azimuthDeg)).toBeCloseTo(lobe.offsetDeg, 9);
    expect(Math.abs(beginPractice(link, "farOff", 3).mounts.b.azimuthDeg)).toBeCloseTo(lobe.offsetDeg, 9);
  });
});

test("bolts move an end by what they are turned, less the play on the way back, and not at all once it is locked", () => {
  const start = aimed(beginPractice(link, "plain", 1));
  const out = turn(link, start, "a", "azimuth", 2);
  expect(out.mounts.a.azimuthDeg).toBeCloseTo(2, 9);
  const back = turn(link, out, "a", "azimuth", -2);
  const lost = back.mounts.a.azimuthDeg;
  expect(lost).toBeGreaterThan(0.1);
  expect(turn(link, back, "a", "azimuth", -1).mounts.a.azimuthDeg).toBeCloseTo(lost - 1, 9);
  expect(back.mounts.a.elevationDeg).toBe(0);
  expect(turn(link, out, "a", "elevation", -0.5).mounts.a.elevationDeg).toBeCloseTo(-0.5, 9);
  const locked = lock(link, out, "a", true);
  expect(locked.mounts.a.azimuthDeg).not.toBe(2);
  expect(Math.abs(locked.mounts.a.azimuthDeg - 2)).toBeLessThan(1);
  expect(turn(link, locked, "a", "azimuth", 1)).toBe(locked);
  expect(lock(link, locked, "a", false).mounts.a.azimuthDeg).toBe(locked.mounts.a.azimuthDeg);
  expect(back.turns).toBe(2);
});

test("the meter scatters about the true level, and what it showed is written down", () => {
  let practice = beginPractice(link, "plain", 5);
  const levels: number[] = [];
  for (let i = 0; i < 400; i++) {
    const read = readMeter(link, practice, "b");
    practice = read.practice;
    levels.push(read.levelDbm);
  }
  const mean = levels.reduce((sum, level) => sum + level, 0) / levels.length;
  expect(Math.abs(mean - trueLevelDbm(link, practice, "b"))).toBeLessThan(0.2);
  expect(Math.max(...levels) - Math.min(...levels)).toBeGreaterThan(1);
  expect(practice.log).toHaveLength(400);
  const numbers = Array.from({ length: 2000 }, (_, i) => randomAt(i));
  expect(numbers.reduce((sum, n) => sum + n, 0) / 2000).toBeCloseTo(0.5, 1);
});

test("a lesson is scored by the level that is left, the cause, the order, and haste", () => {
  const perfect = aimed(beginPractice(link, "crossed", 2));
  const locked: Practice = {
    ...perfect,
    mounts: { a: { ...perfect.mounts.a, isLocked: true }, b: { ...perfect.mounts.b, isLocked: true } },
  };
  const done = { seconds: 100, named: "crossed", readAgain: true } as const;
  expect(scoreOf(link, locked, done).points).toBe(100);
  expect(scoreOf(link, locked, { ...done, named: "plain" }).points).toBe(80);
  expect(scoreOf(link, perfect, done)).toMatchObject({ points: 85, isReadAgain: false });
  expect(scoreOf(link, locked, { ...done, seconds: 600 }).points).toBe(85);
  const off: Practice = { ...locked, mounts: { ...locked.mounts, b: { ...locked.mounts.b, azimuthDeg: 2 } } };
  const left = patternLossDb(ends.b.antenna, ends.b.radio.polarization, 2, 0);
  expect(scoreOf(link, off, done).leftDb).toBeCloseTo(left, 9);
  const filmed = { ...locked, isFilmOff: false };
  expect(scoreOf(link, filmed, done).leftDb).toBeCloseTo(1, 9);
  expect([-90, -84, -80, -60, -20].map(lampsAt)).toEqual([0, 1, 1, 5, 5]);
  expect(scoreOf(link, off, done).points).toBe(Math.round(50 * (1 - left / 6) + 50));
});
