import { expect, test } from "@jest/globals";
import { checkPatches, removalOf, withPatches, type Alarm, type Removable, type Visit } from "#core/plan";
import { radio, radioIn, reading, valley, type ValleyRows } from "#core/testing";

/** The valley with a reading on its bridge, a second customer, a scan and photographs. */
const full = (change: (rows: ValleyRows) => void = () => undefined) =>
  valley(0, (rows) => {
    rows.subscribers.push({ ...rows.subscribers[0]!, id: "barn", name: "barn" });
    rows.radios.push({ ...radioIn(rows, "farm-radio"), id: "barn-radio", subscriberId: "barn" });
    rows.links.push({ ...rows.links.find(({ id }) => id === "access")!, id: "access-2", bRadioId: "barn-radio" });
    rows.measurements.push(reading(-50, -50), reading(-50, -50, { id: "m2", linkId: "access" }));
    const photo = (id: string, ownerKind: "site" | "subscriber", ownerId: string) => ({
      id,
      planId: "valley",
      ownerKind,
      ownerId,
      name: id,
      caption: "",
      takenAt: null,
      latDeg: null,
      lonDeg: null,
      widthPx: 1,
      heightPx: 1,
    });
    rows.photos.push(photo("roof", "subscriber", "farm"), photo("mast", "site", "west"));
    change(rows);
  }).world;

/** What is left after a removal, and what the removal says. */
function removed(...things: Removable[]) {
  const world = full();
  const { patches, along } = removalOf(world, things);
  const left = withPatches(world, patches);
  // Nothing that is left stands on something that is gone.
  for (const { aRadioId, bRadioId } of left.links.values())
    expect([left.radios.has(aRadioId), left.radios.has(bRadioId)]).toEqual([true, true]);
  for (const { siteId, subscriberId } of left.radios.values())
    expect(left.sites.has(siteId ?? "") || left.subscribers.has(subscriberId ?? "")).toBe(true);
  for (const { linkId } of left.measurements.values()) expect(left.links.has(linkId)).toBe(true);
  expect(checkPatches(world, patches)).toEqual([]);
  return { along, left };
}

test("a customer goes with its radio, link, reading and photograph; the sector and its other customers stay", () => {
  const { along, left } = removed({ kind: "subscribers", id: "farm" });
  expect(along).toEqual(["1 radio", "1 link", "1 reading", "1 photograph"]);
  expect([...left.links.keys()]).toEqual(["bridge", "access-2"]);
  expect([...left.radios.keys()].sort()).toEqual(["barn-radio", "east-west", "sector", "west-east"]);
  expect([left.subscribers.has("farm"), left.photos.has("roof"), left.photos.has("mast")]).toEqual([
    false,
    false,
    true,
  ]);
});

test("a customer's link goes with the customer's radio; the last one leaves its sector standing", () => {
  expect(removed({ kind: "links", id: "access" }).along).toEqual(["1 radio", "1 reading"]);
  const { along, left } = removed({ kind: "links", id: "access" }, { kind: "links", id: "access-2" });
  expect(along).toEqual(["2 radios", "1 reading"]);
  expect(left.radios.has("sector")).toBe(true);
  expect(left.subscribers.size).toBe(2);
});

test("a bridge goes with both of its radios, unless one of them serves something else", () => {
  const { along, left } = removed({ kind: "links", id: "bridge" });
  expect(along).toEqual(["2 radios", "1 reading"]);
  expect(left.sites.size).toBe(2);
  const world = full((rows) => {
    rows.sites.push({ ...rows.sites[1]!, id: "third" });
    rows.radios.push(radio("third-west", { siteId: "third" }));
    rows.links.push({ ...rows.links[0]!, id: "second", aRadioId: "west-east", bRadioId: "third-west" });
  });
  const kept = withPatches(world, removalOf(world, [{ kind: "links", id: "bridge" }]).patches);
  expect([kept.radios.has("west-east"), kept.radios.has("east-west")]).toEqual([true, false]);
});

test("a site goes with everything on it and at the far ends of its links", () => {
  const { along, left } = removed({ kind: "sites", id: "west" });
  expect(along).toEqual(["5 radios", "3 links", "2 readings", "1 photograph"]);
  expect([left.radios.size, left.links.size, [...left.sites.keys()]]).toEqual([0, 0, ["east"]]);
  expect(left.subscribers.size).toBe(2);
});

test("what stands alone goes alone", () => {
  const world = full((rows) => void rows.sites.push({ ...rows.sites[1]!, id: "bare" }));
  expect(removalOf(world, [{ kind: "sites", id: "bare" }])).toEqual({
    patches: [{ kind: "sites", id: "bare", remove: true }],
    along: [],
  });
});

test("what only names something that goes is emptied of it and stays: a job's predecessors, an alarm's radio and links", () => {
  const visit = (id: string, linkId: string, afterIds: string[]): Visit => ({
    ...{
      id,
      planId: "valley",
      linkId,
      work: "build",
      day: "",
      startMinute: 480,
      minutes: 120,
      crewAId: null,
      crewBId: null,
    },
    ...{ afterIds, weather: "", powerOff: "notNeeded", climb: "notNeeded", neighboursTold: false, packed: false },
    ...{ state: "planned", stopped: "", notes: "" },
  });
  const alarm: Alarm = {
    ...{
      id: "weak",
      planId: "valley",
      linkId: "access",
      linkIds: ["access", "bridge"],
      radioId: "west-east",
      kind: "level",
    },
    ...{
      sinceDay: "2026-11-01",
      raisedDay: "2026-11-02",
      endedDay: "",
      what: "weak",
      value: -3,
      unit: "dB",
      causes: [],
    },
    ...{ state: "open", seenBy: "", closedWhy: "", visitId: "first" },
  };
  const world = full((rows) => {
    rows.visits.push(visit("first", "bridge", []), visit("second", "access", ["first"]));
    rows.alarms.push(alarm);
  });
  const { patches, along } = removalOf(world, [{ kind: "links", id: "bridge" }]);
  expect(along).toEqual(["2 radios", "1 reading", "1 job"]);
  const left = withPatches(world, patches);
  expect(left.visits.get("second")!.afterIds).toEqual([]);
  expect(left.alarms.get("weak")).toMatchObject({ linkIds: ["access"], radioId: null, visitId: null });
  expect(checkPatches(world, patches)).toEqual([]);
});
