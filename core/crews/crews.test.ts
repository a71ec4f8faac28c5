import { describe, expect, test } from "@jest/globals";
import {
  aimTurns,
  dayOf,
  fieldNoteSchema,
  minutesFor,
  minutesOfCrew,
  orderedDay,
  orderedForAll,
  peopleOf,
  progressAt,
  linksWaiting,
  proposeVisits,
  readingOfNotes,
  sidesOf,
  sketchOf,
  stateByNotes,
  ticked,
  travelMinutes,
  visitProblems,
  workFor,
  type FieldNote,
} from "#core/crews";
import { linkEnds, type Crew, type Visit, type World } from "#core/plan";
import { valley } from "#core/testing";

const ids = () => {
  let count = 0;
  return () => `v${++count}`;
};
const crew = (id: string, people = "Ana\nBea"): Crew => ({
  ...{ id, planId: "valley", name: `${id} crew`, people, radioChannel: "7", phone: "", logins: [] },
});

/** The valley with its jobs proposed and changed, and two crews. */
function planned(
  change: (visits: Map<string, Visit>) => void = () => undefined,
  crews = [crew("east"), crew("west")],
): World {
  const { world } = valley();
  const visits = new Map(proposeVisits(world, ids(), 1).map((visit) => [visit.id, visit]));
  change(visits);
  return { ...world, visits, crews: new Map(crews.map((one) => [one.id, one])) };
}
const told = (world: World, id: string) =>
  visitProblems(world)
    .filter(({ visitId }) => visitId === id)
    .map(({ text }) => text);
/** Sets fields of the job on a link. */
const on = (visits: Map<string, Visit>, linkId: string, set: Partial<Visit>) => {
  const visit = [...visits.values()].find((one) => one.linkId === linkId)!;
  visits.set(visit.id, { ...visit, ...set });
  return visit.id;
};

describe("proposed jobs", () => {
  test("begin at the feed, and what hangs behind a bridge waits for it", () => {
    const { world } = valley();
    world.sites.set("west", { ...world.sites.get("west")!, isFeed: true });
    world.sites.set("east", { ...world.sites.get("east")!, isFeed: false });
    const visits = proposeVisits(world, ids(), 1);
    const bridge = visits.find(({ linkId }) => linkId === "bridge")!;
    const access = visits.find(({ linkId }) => linkId === "access")!;
    const sectorSite = world.radios.get(world.links.get("access")!.aRadioId)!.siteId;
    expect(visits[0]!.linkId).toBe("bridge");
    expect(bridge.afterIds).toEqual([]);
    expect(access.afterIds).toEqual(sectorSite === "west" ? [] : [bridge.id]);
    world.sites.set("west", { ...world.sites.get("west")!, isFeed: false });
    world.sites.set("east", { ...world.sites.get("east")!, isFeed: true });
    const other = proposeVisits(world, ids(), 1);
    expect(other.find(({ linkId }) => linkId === "access")!.afterIds).toEqual(
      sectorSite === "east" ? [] : [other.find(({ linkId }) => linkId === "bridge")!.id],
    );
  });

  test("are for links that wait, once each: proven ones have none, failed ones are mended", () => {
    const world = planned();
    expect(proposeVisits(world, ids(), 1)).toEqual([]);
    expect((["planned", "proven", "doubtful", "failed"] as const).map((state) => workFor(state))).toEqual([
      "build",
      null,
      "aim",
      "mend",
    ]);
    const done = planned((visits) => void on(visits, "bridge", { state: "done" }));
    expect(proposeVisits(done, ids(), 1).map(({ linkId }) => linkId)).toEqual(["bridge"]);
  });

  test("come for the stages of growth up to one, and later stages wait", () => {
    const later = valley(0, (rows) => void (rows.links.find(({ id }) => id === "access")!.growthStage = 2)).world;
    const linksOf = (toStage: number) => proposeVisits(later, ids(), toStage).map(({ linkId }) => linkId);
    expect(linksOf(1)).toEqual(["bridge"]);
    expect(linksOf(2)).toEqual(["bridge", "access"]);
    expect(linksWaiting(later, 1)).toHaveLength(1);
  });

  test("take the longer end's steps with the aiming, in quarters of an hour", () => {
    const { world } = valley();
    const link = world.links.get("bridge")!;
    const minutes = minutesFor(world, link, "build");
    expect(minutes % 15).toBe(0);
    expect(minutes).toBeGreaterThan(60);
    expect(minutesFor(world, link, "aim")).toBe(90);
  });
});

describe("what stands against a job", () => {
  const day = "2026-12-01";
  test("a bridge with one crew, nobody alone, permits, parts and neighbours", () => {
    let id = "";
    const world = planned(
      (visits) => {
        const set = { day, crewAId: "solo", crewBId: "solo", powerOff: "toAsk", climb: "asked" } as const;
        id = on(visits, "bridge", set);
      },
      [crew("solo", "Ana")],
    );
    const { a, b } = linkEnds(world, world.links.get("bridge")!);
    expect(told(world, id)).toEqual([
      `solo crew is one person at ${a.placeName}: nobody climbs alone, and somebody must know where.`,
      `solo crew is one person at ${b.placeName}: nobody climbs alone, and somebody must know where.`,
      expect.stringMatching(/^One crew has both ends/),
      "Power off: nobody has asked yet.",
      "Permit to climb: asked, not granted yet.",
      "Parts are not packed.",
      "Neighbours are not told.",
    ]);
    const ready = planned((visits) => {
      const set = {
        day,
        crewAId: "east",
        crewBId: "west",
        packed: true,
        neighboursTold: true,
        climb: "granted",
      } as const;
      id = on(visits, "bridge", set);
    });
    expect(told(ready, id)).toEqual([]);
  });

  test("a day before what it waits for, a circle, and nothing said while it has no day", () => {
    let [first, second] = ["", ""];
    const world = planned((visits) => {
      first = on(visits, "bridge", { day: "2026-12-02", startMinute: 480, minutes: 60 });
      second = on(visits, "access", { day, afterIds: [first] });
    });
    expect(told(world, second)[0]).toMatch(/^It waits for .*, which ends after this begins\.$/);
    world.visits.set(first, { ...world.visits.get(first)!, day: "" });
    expect(told(world, second)[0]).toMatch(/which has no day yet\.$/);
    world.visits.set(first, { ...world.visits.get(first)!, afterIds: [second] });
    expect(told(world, first)).toContain("It waits for a job that waits for it.");
    world.visits.set(second, { ...world.visits.get(second)!, day: "", afterIds: [] });
    expect(told(world, second)).toEqual([]);
    world.visits.set(first, { ...world.visits.get(first)!, state: "done", afterIds: [] });
    world.visits.set(second, { ...world.visits.get(second)!, day, afterIds: [first] });
    expect(told(world, second).join()).not.toContain("waits");
  });

  test("a crew in two places at once, and one that cannot be there in time", () => {
    let second = "";
    const at = (startMinute: number) =>
      planned((visits) => {
        on(visits, "bridge", { day, startMinute: 480, minutes: 60, crewAId: "east", crewBId: "west" });
        second = on(visits, "access", { day, startMinute, minutes: 60, crewBId: "east" });
      });
    const clash = (startMinute: number) => told(at(startMinute), second).filter((text) => text.includes("not here by"));
    const world = at(480);
    const { a } = linkEnds(world, world.links.get("bridge")!);
    const far = linkEnds(world, world.links.get("access")!).b;
    const away = travelMinutes(a.place, far.place);
    expect(clash(480)).toEqual([expect.stringContaining("until 09:00")]);
    expect(clash(540 + away - 1)).toHaveLength(1);
    expect(clash(540 + away)).toEqual([]);
  });
});

test("the way takes longer over roads than straight, and nothing where one stays", () => {
  const here = { latDeg: 0, lonDeg: 0 };
  expect(travelMinutes(here, here)).toBe(0);
  // 11.13 km: 15.6 over roads, 23.4 minutes at 40 km/h, and ten to load.
  expect(travelMinutes(here, { latDeg: 0, lonDeg: 0.1 })).toBe(34);
});

test("a job of two crews begins when the later one can be there", () => {
  const day = "2026-12-01";
  const world = planned((visits) => {
    const access = on(visits, "access", { day, startMinute: 480, minutes: 30, crewBId: "west" });
    on(visits, "bridge", { day, startMinute: 480, minutes: 60, crewAId: "east", crewBId: "west", afterIds: [access] });
  });
  const bridge = [...world.visits.values()].find(({ linkId }) => linkId === "bridge")!;
  const [east, west] = ["east", "west"].map((id) => orderedDay(world, id, day).get(bridge.id)!);
  expect(east).toBe(480);
  expect(west).toBeGreaterThan(510);
  expect(orderedForAll(world, day).get(bridge.id)).toBe(west);
});

test("a day is put in an order that drives least, after what is waited for, and both ends of a bridge cost the way between", () => {
  const day = "2026-12-01";
  const world = planned((visits) => {
    const bridge = on(visits, "bridge", { day, startMinute: 600, minutes: 60, crewAId: "east", crewBId: "east" });
    on(visits, "access", { day, startMinute: 480, minutes: 30, crewBId: "east", afterIds: [bridge] });
  });
  const starts = orderedDay(world, "east", day);
  const [bridge, access] = ["bridge", "access"].map((linkId) =>
    [...world.visits.values()].find((visit) => visit.linkId === linkId)!,
  );
  expect([...starts.keys()]).toEqual([bridge!.id, access!.id]);
  expect(starts.get(bridge!.id)).toBe(480);
  const { a, b } = linkEnds(world, world.links.get("bridge")!);
  const between = travelMinutes(a.place, b.place);
  expect(minutesOfCrew(world, bridge!, "east")).toBe(60 + 2 * between);
  expect(minutesOfCrew(world, { ...bridge!, crewBId: "west" }, "east")).toBe(60);
  const after = linkEnds(world, world.links.get("access")!).b;
  expect(starts.get(access!.id)).toBe(480 + 60 + 2 * between + travelMinutes(a.place, after.place));
  expect(dayOf(world, "west", day)).toEqual([]);
  expect(peopleOf(crew("x", " Ana \n\nBea"))).toEqual(["Ana", "Bea"]);
});

test("the sketch puts north up, the far end on its bearing to scale, and says the same in words", () => {
  const far = { name: "Ridge hut", bearingDeg: 90, distanceM: 4000 };
  const others = [
    far,
    { name: "Tower", bearingDeg: 180, distanceM: 8000 },
    { name: "A very long name indeed", bearingDeg: 0, distanceM: 10 },
  ];
  const { marks, says, width } = sketchOf("Harbour", far, others);
  const circles = marks.flatMap((mark) => (mark.kind === "circle" ? [mark.at] : []));
  const middle = width / 2;
  // 8 km stand 96 from the middle, so 4 km stand 48; what is nearer than can be drawn stands at 24.
  expect(circles.map(([x, y]) => [x - middle, y - middle].map(Math.round))).toEqual([
    [0, 96],
    [0, -24],
    [0, 0],
    [48, 0],
  ]);
  expect(says).toBe(
    "North is up. Ridge hut lies at 90° true from Harbour, 4.00 km away; Tower at 180°, A very long name indeed at 0°.",
  );
  expect(marks).toContainEqual({ kind: "text", at: [middle, middle - 24 + 14], text: "A very long nam…" });
  expect(sketchOf("Harbour", far, [far]).says).toMatch(/away\.$/);
});

let noteCount = 0;
const note = (set: Partial<FieldNote>): FieldNote =>
  fieldNoteSchema.parse({
    ...{ id: `note-${String(++noteCount).padStart(6, "0")}`, visitId: "v1", side: "a", kind: "step", by: "Ana" },
    at: `2026-12-01T08:00:${String(noteCount % 60).padStart(2, "0")}.000Z`,
    ...set,
  });

describe("what crews write", () => {
  test("ticks stand as the last note of each says, in the order of the phone's clock", () => {
    const at = (second: number) => `2026-12-01T08:00:0${second}.000Z`;
    const notes = [
      note({ key: "one", isOn: false, at: at(3) }),
      note({ key: "one", at: at(1) }),
      note({ key: "two", at: at(2) }),
      note({ key: "two", side: "b", at: at(2) }),
    ];
    expect([...ticked(notes, "a", "step").keys()]).toEqual(["two"]);
    expect([...ticked(notes, "b", "step").keys()]).toEqual(["two"]);
    expect(ticked(notes, "a", "caution").size).toBe(0);
  });

  test("an end's progress tells its last level, its lock, its halt and its end", () => {
    const at = (second: number) => `2026-12-01T09:00:0${second}.000Z`;
    const notes = [
      note({ kind: "caution", key: "fall", at: at(0) }),
      note({ kind: "level", key: "azimuth", value: 3, levelDbm: -61, at: at(1) }),
      note({ kind: "level", key: "azimuth", value: 4, levelDbm: -55, at: at(2) }),
      note({ kind: "locked", key: "azimuth", at: at(3) }),
      note({ kind: "stopped", text: "wind", at: at(4) }),
    ];
    expect(progressAt(notes, "a")).toEqual({
      ...{ cautions: 1, steps: 0, levelDbm: -55, isLocked: true, stopped: "wind", isDone: false, lastAt: at(4) },
    });
    expect(progressAt([...notes, note({ kind: "resumed", at: at(5) })], "a").stopped).toBe("");
    expect(progressAt(notes, "b").lastAt).toBeNull();
  });

  const promised = {
    ...{ floorDbm: -65, deviationDb: 4 },
    ...{ expectedADbm: -45, expectedBDbm: -46, expectedDownMbps: 90, expectedUpMbps: 80 },
    ...{ expectedNoiseADbm: -97, expectedNoiseBDbm: -98 },
  };
  const visit = [...planned().visits.values()][0]!;

  test("a reading comes of both ends' levels, with whatever else was read, and not of one end's", () => {
    const read = (side: "a" | "b", key: string, figure: number, by = "Ana") =>
      note({
        side,
        kind: "read",
        key,
        by,
        ...(key === "down" || key === "up" ? { value: figure } : { levelDbm: figure }),
      });
    const oneEnd = [read("a", "chain0", -48), read("a", "chain1", -49), read("a", "noise", -95), read("a", "down", 70)];
    expect(readingOfNotes(visit, promised, oneEnd)).toBeNull();
    const both = [
      ...oneEnd,
      read("b", "chain0", -50, "Bea"),
      read("b", "up", 60, "Bea"),
      read("b", "chain0", -51, "Bea"),
    ];
    expect(readingOfNotes(visit, null, both)).toBeNull();
    expect(readingOfNotes(visit, promised, both)).toMatchObject({
      ...{ id: `field-${visit.id}`, linkId: visit.linkId, measuredBy: "Ana and Bea", ...promised },
      ...{ levelA0Dbm: -48, levelA1Dbm: -49, levelB0Dbm: -51, levelB1Dbm: null, noiseADbm: -95, noiseBDbm: null },
      ...{ downMbps: 70, upMbps: 60 },
    });
  });

  test("modulation and pings go along in words, by their end", () => {
    const at = (side: "a" | "b", key: string, more: Partial<FieldNote>) => note({ side, kind: "read", key, ...more });
    const notes = [
      ...[at("a", "chain0", { levelDbm: -48 }), at("b", "chain0", { levelDbm: -49 })],
      ...[at("b", "modulation", { text: "256QAM" }), at("a", "ping", { text: "20 sent, 0 % lost" })],
    ];
    expect(readingOfNotes(visit, promised, notes)!.notes).toBe(
      "ping from end A: 20 sent, 0 % lost; modulation at end B: 256QAM",
    );
  });

  test("a job is under way once anything was written, stopped with its reason, and done when every end is", () => {
    expect(stateByNotes([], ["a", "b"])).toBeNull();
    const begun = [note({ key: "x" })];
    expect(stateByNotes(begun, ["a", "b"])).toEqual({ state: "underway", stopped: "" });
    expect(stateByNotes([...begun, note({ kind: "stopped", text: "ice" })], ["a"])).toEqual({
      state: "stopped",
      stopped: "ice",
    });
    const one = [...begun, note({ kind: "done" })];
    expect(stateByNotes(one, ["a", "b"])!.state).toBe("underway");
    expect(stateByNotes([...one, note({ kind: "done", side: "b" })], ["a", "b"])!.state).toBe("done");
    expect(stateByNotes(one, [])!.state).toBe("underway");
    expect(sidesOf({ ...visit, crewAId: null }, "access")).toEqual(["b"]);
    expect(sidesOf({ ...visit, crewAId: "east" }, "access")).toEqual(["a", "b"]);
    expect(sidesOf({ ...visit, crewAId: null }, "bridge")).toEqual(["a", "b"]);
  });
});

test("ends take turns at aiming, azimuth first, and a lock that was taken back is open again", () => {
  const locked = (n: number, side: "a" | "b", key: string, isOn = true): FieldNote => ({
    ...{
      id: `note-000${n}`,
      visitId: "v",
      side,
      kind: "locked",
      key,
      text: "",
      value: null,
      levelDbm: null,
      isOn,
      by: "Ana",
    },
    at: `2026-12-01T08:0${n}:00Z`,
  });
  const open = (notes: FieldNote[]) =>
    aimTurns(notes).flatMap(({ side, axis, isLocked }) => (isLocked ? [] : [`${axis} ${side}`]));
  expect(open([])).toEqual(["azimuth a", "azimuth b", "elevation a", "elevation b"]);
  expect(open([locked(1, "a", "azimuth")])[0]).toBe("azimuth b");
  expect(open([locked(1, "a", "azimuth"), locked(3, "a", "azimuth", false), locked(2, "b", "azimuth")])[0]).toBe(
    "azimuth a",
  );
});
