import { beamwidthDeg, firstSideLobe, patternLossDb } from "../antenna";
import type { LinkEnd } from "../plan";

/** What can be wrong in a lesson, beside both ends being off. */
export const LESSONS = ["plain", "sideLobe", "crossed", "chainDead", "farOff", "film"] as const;
export type Lesson = (typeof LESSONS)[number];

type EndSide = "a" | "b";

export interface Mount {
  azimuthDeg: number;
  elevationDeg: number;
  isLocked: boolean;
  /** Which way each axis was turned last: turning back takes up the play first. */
  lastTurn: { azimuth: -1 | 0 | 1; elevation: -1 | 0 | 1 };
  /** Play that is still to be taken up, degrees. */
  slackDeg: { azimuth: number; elevation: number };
}

/** A link under practice: how far each end is from its peak, what is wrong, and what was done. */
export interface Practice {
  lesson: Lesson;
  mounts: Record<EndSide, Mount>;
  /** Of the random numbers that meter and wind are drawn from; counts up. */
  seed: number;
  turns: number;
  /** Levels that were read, for the replay: which end was turned, where it stood, and what the meter said. */
  log: { side: EndSide; azimuthDeg: number; elevationDeg: number; levelDbm: number }[];
  isFilmOff: boolean;
}

/** What is practised on: both ends as they are planned, and the level of each chain at either end, dBm. */
export interface PracticeLink {
  a: LinkEnd;
  b: LinkEnd;
  expectedDbm: Record<EndSide, number>;
}

/** A meter's scatter; and of a gust, dB for each share of the random number beyond 0.7. */
const METER_DB = 0.6;
const GUST_DB = 1.2;
/** What a film left on a radome of tens of GHz takes, and below that, dB. */
const FILM_DB = { high: 8, low: 1 };
/** One chain of two, dB. */
const HALF_DB = 3;
/** Play of a bracket and how far locking pushes it, as shares of the beam. */
const PLAY_SHARE = 0.08;
const LOCK_SHARE = 0.12;

/** Random numbers from 0 to 1 of a seed: the same lesson can be gone through again (mulberry32). */
export function randomAt(seed: number): number {
  let t = (seed + 0x6d2b79f5) | 0;
  t = Math.imul(t ^ (t >>> 15), t | 1);
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
}

const cutsOf = ({ antenna }: LinkEnd, axis: "azimuth" | "elevation") =>
  (axis === "azimuth" ? antenna.azimuthCuts : antenna.elevationCuts).V;
const beamOf = (end: LinkEnd, axis: "azimuth" | "elevation") => Math.min(60, beamwidthDeg(cutsOf(end, axis), 3));

/** Begins a lesson: both ends coarsely on, as a compass and the eye leave them; some of them elsewhere by the lesson. */
export function beginPractice(link: PracticeLink, lesson: Lesson, seed: number): Practice {
  const mount = (side: EndSide, at: number): Mount => {
    const end = link[side];
    const spread = (axis: "azimuth" | "elevation", n: number) =>
      (randomAt(seed + n) - 0.5) * (axis === "azimuth" ? 1.6 : 0.8) * beamOf(end, axis);
    const lobe = firstSideLobe(cutsOf(end, "azimuth"))?.offsetDeg;
    const isOnLobe = (lesson === "sideLobe" && side === "a") || (lesson === "farOff" && side === "b");
    const sign = randomAt(seed + at + 2) < 0.5 ? -1 : 1;
    return {
      azimuthDeg: isOnLobe && lobe ? sign * lobe : spread("azimuth", at),
      elevationDeg: spread("elevation", at + 1),
      isLocked: false,
      lastTurn: { azimuth: 0, elevation: 0 },
      slackDeg: { azimuth: 0, elevation: 0 },
    };
  };
  return {
    ...{ lesson, seed: seed + 100, turns: 0, log: [], isFilmOff: lesson !== "film" },
    mounts: { a: mount("a", 1), b: mount("b", 11) },
  };
}

/** Loss against the planned level by how one end stands, dB. */
function lossAt(end: LinkEnd, { azimuthDeg, elevationDeg }: Mount): number {
  return patternLossDb(end.antenna, end.radio.polarization, azimuthDeg, elevationDeg);
}

/** The level at an end without the meter's scatter, dBm on a chain. */
export function trueLevelDbm(link: PracticeLink, practice: Practice, side: EndSide): number {
  const { lesson, mounts } = practice;
  const crossed = lesson === "crossed" ? Math.min(link.a.antenna.crossPolarDb, link.b.antenna.crossPolarDb) : 0;
  const dead = lesson === "chainDead" ? HALF_DB : 0;
  return (
    link.expectedDbm[side] -
    lossAt(link.a, mounts.a) -
    lossAt(link.b, mounts.b) -
    crossed -
    filmDb(link, practice) -
    dead
  );
}

/** Lamps of five that a radio lights at a level: the first at −84 dBm, one more for each 6 dB. */
export const lampsAt = (levelDbm: number): number => Math.max(0, Math.min(5, Math.floor((levelDbm + 90) / 6)));

/** What the film that was left on takes, dB. */
const filmDb = (link: PracticeLink, { isFilmOff }: Practice): number =>
  isFilmOff ? 0 : link.a.radio.frequencyMHz > 20_000 ? FILM_DB.high : FILM_DB.low;

/** What the meter of an end shows now, and the practice with it written down. */
export function readMeter(
  link: PracticeLink,
  practice: Practice,
  side: EndSide,
): { levelDbm: number; practice: Practice } {
  const noise =
    (randomAt(practice.seed) + randomAt(practice.seed + 1) + randomAt(practice.seed + 2) - 1.5) * 2 * METER_DB;
  const gust = Math.max(0, randomAt(practice.seed + 3) - 0.7) * GUST_DB;
  const levelDbm = Math.round((trueLevelDbm(link, practice, side) + noise - gust) * 10) / 10;
  const { azimuthDeg, elevationDeg } = practice.mounts[side];
  const log = [...practice.log, { side, azimuthDeg, elevationDeg, levelDbm }];
  return { levelDbm, practice: { ...practice, seed: practice.seed + 4, log } };
}

/** Turns a fine bolt of one end. A locked end stays; turning back takes up the bracket's play before anything moves. */
export function turn(
  link: PracticeLink,
  practice: Practice,
  side: EndSide,
  axis: "azimuth" | "elevation",
  byDeg: number,
): Practice {
  const mount = practice.mounts[side];
  if (mount.isLocked || byDeg === 0) return practice;
  const way = byDeg < 0 ? -1 : 1;
  const before = mount.lastTurn[axis];
  const slack = before !== 0 && before !== way ? PLAY_SHARE * beamOf(link[side], axis) : mount.slackDeg[axis];
  const taken = Math.min(slack, Math.abs(byDeg));
  const key = axis === "azimuth" ? "azimuthDeg" : "elevationDeg";
  const next: Mount = {
    ...mount,
    [key]: mount[key] + way * (Math.abs(byDeg) - taken),
    lastTurn: { ...mount.lastTurn, [axis]: way },
    slackDeg: { ...mount.slackDeg, [axis]: slack - taken },
  };
  return { ...practice, turns: practice.turns + 1, mounts: { ...practice.mounts, [side]: next } };
}

/** Locks or frees an end; locking pushes it aside a little, as bolts do. */
export function lock(link: PracticeLink, practice: Practice, side: EndSide, isLocked: boolean): Practice {
  const mount = practice.mounts[side];
  const push = (axis: "azimuth" | "elevation", n: number) =>
    isLocked ? (randomAt(practice.seed + n) - 0.5) * 2 * LOCK_SHARE * beamOf(link[side], axis) : 0;
  const next: Mount = {
    ...mount,
    isLocked,
    azimuthDeg: mount.azimuthDeg + push("azimuth", 0),
    elevationDeg: mount.elevationDeg + push("elevation", 1),
  };
  return { ...practice, seed: practice.seed + 2, mounts: { ...practice.mounts, [side]: next } };
}

interface Score {
  /** What is still lost by both ends' aim and by the film, dB. */
  leftDb: number;
  turns: number;
  seconds: number;
  /** Whether what the lesson hid was named. */
  isCauseNamed: boolean;
  /** Whether both ends were locked and read again after it. */
  isReadAgain: boolean;
  /** Of 100. */
  points: number;
}

/** What a lesson came to: half for the level, a fifth for the cause, the rest for order and haste. */
export function scoreOf(
  link: PracticeLink,
  practice: Practice,
  { seconds, named, readAgain }: { seconds: number; named: Lesson; readAgain: boolean },
): Score {
  const leftDb = lossAt(link.a, practice.mounts.a) + lossAt(link.b, practice.mounts.b) + filmDb(link, practice);
  const isCauseNamed = named === practice.lesson;
  const isLocked = practice.mounts.a.isLocked && practice.mounts.b.isLocked;
  const isReadAgain = isLocked && readAgain;
  const level = 50 * Math.max(0, 1 - leftDb / 6);
  const haste = 15 * Math.max(0, Math.min(1, (600 - seconds) / 480));
  const points = Math.round(level + (isCauseNamed ? 20 : 0) + (isReadAgain ? 15 : 0) + haste);
  return { leftDb, turns: practice.turns, seconds, isCauseNamed, isReadAgain, points };
}
