import { expect, test } from "@jest/globals";
import { patternLossDb } from "#core/antenna";
import { destination, signedAngleDeg } from "#core/geodesy";
import { endOf, setPatch, withPatches, type World } from "#core/plan";
import { radioIn, valley } from "#core/testing";
import { rootAlarms, type LinkAlarm } from "#core/watch";
import { turnedDeg } from "./turned";

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
    const found = turnedDeg(world, "sector", changes(world, offs, turn));
    expect(found).not.toBeNull();
    expect(Math.abs(found! - turn)).toBeLessThan(4);
  }
});

test("where either way fits, nothing fits, or too few tell, no way is told", () => {
  const middle = [-2, 0, 2];
  const ahead = sectorWith(middle);
  expect(turnedDeg(ahead, "sector", changes(ahead, middle, 40))).toBeNull();
  const offs = [-50, -10, 10, 50];
  const world = sectorWith(offs);
  // All fell alike: no turn does that.
  expect(turnedDeg(world, "sector", new Map(offs.map((_, i) => [`link-${i}`, -8])))).toBeNull();
  const two = sectorWith([-50, 50]);
  expect(turnedDeg(two, "sector", changes(two, [-50, 50], 20))).toBeNull();
  const unaimed = withPatches(world, [setPatch("radios", "sector", { azimuthDeg: null })]);
  expect(turnedDeg(unaimed, "sector", changes(world, offs, 25))).toBeNull();
});

test("the alarm of an access point says it", () => {
  const offs = [-50, -40, -30, 30, 50];
  const world = sectorWith(offs);
  const alarm = (linkId: string, changeDb: number): LinkAlarm => ({
    ...{ linkId, kind: "level", kinds: ["level"], side: null, sinceDay: 100, raisedDay: 100, endedDay: null },
    ...{ what: "the level fell", size: { value: Math.abs(changeDb), unit: "dB" }, changeDb },
    causes: [{ cause: changeDb < 0 ? "moved" : "ownChange", odds: 1, because: "" }],
  });
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
