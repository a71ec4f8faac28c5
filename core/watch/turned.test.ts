import { expect, test } from "@jest/globals";
import { patternLossDb } from "#core/antenna";
import { destination, signedAngleDeg } from "#core/geodesy";
import { endOf, setPatch, withPatches, type World } from "#core/plan";
import { radioIn, valley } from "#core/testing";
import { rootAlarms, type LinkAlarm } from "#core/watch";
import { movedBy, turnLosing, type Offs } from "./turned";

const AIM_DEG = 250;
/** A sector that looks west, with a customer at each of some angles to the right of its axis. */
function sectorWith(offsDeg: readonly number[]): World {
  return valley(0, (rows) => {
    radioIn(rows, "sector").azimuthDeg = AIM_DEG;
    const west = rows.sites.find(({ id }) => id === "west")!;
    const [house] = rows.subscribers;
    const client = radioIn(rows, "farm-radio");
    const link = rows.links.find(({ id }) => id === "access")!;
    rows.links = rows.links.filter(({ kind }) => kind === "bridge");
    rows.subscribers = offsDeg.map((off, i) => ({
      ...house!,
      id: `house-${i}`,
      ...destination(west, AIM_DEG + off, 3000),
    }));
    rows.radios = rows.radios.filter(({ id }) => id !== "farm-radio");
    for (const i of offsDeg.keys()) {
      rows.radios.push({ ...client, id: `client-${i}`, subscriberId: `house-${i}` });
      rows.links.push({ ...link, id: `link-${i}`, bRadioId: `client-${i}` });
    }
  }).world;
}

/** What each customer's level changes by when the sector turns, in whole decibels as radios tell them; those under 3 dB are not told. */
function changes(world: World, offsDeg: readonly number[], turnDeg: number): Map<string, number> {
  const { antenna, radio } = endOf(world, "sector");
  const loss = (off: number) => patternLossDb(antenna, radio.polarization, signedAngleDeg(off), 0);
  return new Map(
    offsDeg
      .map((off, i): [string, number] => [`link-${i}`, Math.round(loss(off) - loss(off - turnDeg))])
      .filter(([, change]) => Math.abs(change) >= 3),
  );
}

test("customers at both sides tell by how much and which way an access point turned", () => {
  const offs = [-55, -40, -20, 0, 25, 40, 55];
  const world = sectorWith(offs);
  for (const turn of [-30, -20, 15, 25]) {
    const found = movedBy(world, "sector", changes(world, offs, turn))!;
    expect(found.kind).toBe("turned");
    expect(Math.abs(found.degrees - turn)).toBeLessThan(4);
  }
});

test("where either way fits, nothing fits, or too few tell, no way is told", () => {
  const middle = [-2, 0, 2];
  const ahead = sectorWith(middle);
  expect(movedBy(ahead, "sector", changes(ahead, middle, 40))).toBeNull();
  const offs = [-50, -10, 10, 50];
  const world = sectorWith(offs);
  // All fell alike: no turn does that, and customers who all lie level tell of no way to tilt.
  expect(movedBy(world, "sector", new Map(offs.map((_, i) => [`link-${i}`, -8])))).toBeNull();
  const two = sectorWith([-50, 50]);
  expect(movedBy(two, "sector", changes(two, [-50, 50], 20))).toBeNull();
  const unaimed = withPatches(world, [setPatch("radios", "sector", { azimuthDeg: null })]);
  expect(movedBy(unaimed, "sector", changes(world, offs, 25))).toBeNull();
});

/** Customers all round the sector's axis, each so many degrees below where it looks. */
const DOWN_DEG = [-9, -4, -1, 0, 1, 3, 7];
const offs: Offs = new Map(
  DOWN_DEG.map((elevationDeg, i) => [
    `link-${i}`,
    { a: { azimuthDeg: 0, elevationDeg }, b: { azimuthDeg: 0, elevationDeg: 0 } },
  ]),
);
const SPREAD_DEG = [-40, -25, -10, 0, 10, 25, 40];
/** What each one's level changes by when the bracket tips downward. */
function tiltChanges(world: World, tiltDeg: number): Map<string, number> {
  const { antenna, radio } = endOf(world, "sector");
  const loss = (i: number, tilt: number) =>
    patternLossDb(
      antenna,
      radio.polarization,
      SPREAD_DEG[i]!,
      DOWN_DEG[i]! + tilt * Math.cos((SPREAD_DEG[i]! * Math.PI) / 180),
    );
  const all = DOWN_DEG.map((_, i): [string, number] => [`link-${i}`, Math.round(loss(i, 0) - loss(i, tiltDeg))]);
  return new Map(all.filter(([, change]) => Math.abs(change) >= 3));
}

test("customers near and far tell by how much an access point tilted, and it is not taken for a turn", () => {
  const world = sectorWith(SPREAD_DEG);
  for (const tilt of [-7, -5, 5, 8]) {
    const found = movedBy(world, "sector", tiltChanges(world, tilt), offs)!;
    expect(found.kind).toBe("tilted");
    expect(Math.abs(found.degrees - tilt)).toBeLessThan(1.5);
  }
  // Without knowing who lies how far below nothing is told of it.
  expect(movedBy(world, "sector", tiltChanges(world, 5))).toBeNull();
  const alarms = [...tiltChanges(world, 5)].map(([id, change]) => alarm(id, change));
  expect(rootAlarms(world, alarms, offs)[0]!.what).toMatch(
    /most likely it is its own antenna, tilted by about [456]° downward$/,
  );
});

test("the turn that loses so much is read off the antenna's pattern", () => {
  const end = endOf(sectorWith([0]), "east-west");
  const loss = (degrees: number) => patternLossDb(end.antenna, end.radio.polarization, degrees, 0);
  const turn = turnLosing(end, 6)!;
  expect(loss(turn) - loss(0)).toBeGreaterThanOrEqual(6);
  expect(loss(turn - 0.5) - loss(0)).toBeLessThan(6);
  expect(turnLosing(end, 200)).toBeNull();
});

const alarm = (linkId: string, changeDb: number): LinkAlarm => ({
  ...{ linkId, kind: "level", kinds: ["level"], side: null, sinceDay: 100, raisedDay: 100, endedDay: null },
  ...{ what: "the level fell", size: { value: Math.abs(changeDb), unit: "dB" }, changeDb },
  noiseChangeDb: { a: 0, b: 0 },
  causes: [{ cause: changeDb < 0 ? "moved" : "ownChange", odds: 1, because: "" }],
});

test("the alarm of an access point says it", () => {
  const offs = [-50, -40, -30, 30, 50];
  const world = sectorWith(offs);
  const found = rootAlarms(
    world,
    [...changes(world, offs, 25)].map(([id, change]) => alarm(id, change)),
  );
  expect(found).toHaveLength(1);
  // Though the first in line gained, whoever lost most is told.
  expect(found[0]!.changeDb).toBeLessThan(-3);
  expect(found[0]!.what).toMatch(
    /most likely it is its own antenna, turned by about 2\d° clockwise as seen from above$/,
  );
});
