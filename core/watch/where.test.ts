import { describe, expect, test } from "@jest/globals";
import { radioIn, valley } from "#core/testing";
import { endOf } from "#core/plan";
import { rootAlarms, type LinkAlarm } from "#core/watch";
import { turnLosing } from "./turned";

/** The valley's bridge from west to east, and three customers on the sector at its western end. */
const { world } = valley(0, (rows) => {
  for (const site of rows.sites) site.isFeed = site.id === "east";
  radioIn(rows, "sector").azimuthDeg = 250;
  for (const number of [2, 3]) {
    rows.radios.push({ ...radioIn(rows, "farm-radio"), id: `farm-radio-${number}` });
    rows.links.push({
      ...rows.links.find(({ id }) => id === "access")!,
      id: `access-${number}`,
      bRadioId: `farm-radio-${number}`,
    });
  }
});
const place = (kind: "site" | "subscriber") =>
  kind === "site" ? world.sites.get("west")!.name : [...world.subscribers.values()][0]!.name;
const alarm = (linkId: string, kind: LinkAlarm["kind"], given: Partial<LinkAlarm> = {}): LinkAlarm => ({
  ...{ linkId, kind, kinds: [kind], side: null, sinceDay: 100, raisedDay: 100, endedDay: null, what: "it fell" },
  ...{
    size: { value: 3, unit: "dB" },
    changeDb: kind === "level" ? -3 : null,
    causes: [{ cause: "moved" as const, odds: 1, because: "" }],
    noiseChangeDb: { a: 0, b: 0 },
    ...given,
  },
});
const whats = (...alarms: LinkAlarm[]) => rootAlarms(world, alarms).map(({ what }) => what);

describe("which end moved", () => {
  test("one customer alone of several: his own", () => {
    expect(whats(alarm("access", "level"))).toEqual([
      `it fell; nothing was raised of the 2 others of ${world.radios.get("sector")!.name}, so most likely it is the end at ${place("subscriber")}: a turn of about ${turnLosing(endOf(world, "farm-radio"), 3)}° loses that much`,
    ]);
    // Another that strayed with him, and too few of them to be the access point alike, leaves it open.
    const [first] = whats(alarm("access", "level", { side: "b" }), alarm("access-2", "imbalance"));
    expect(first).toBe("it fell");
  });

  test("most of an access point's links together: its own antenna", () => {
    expect(whats(alarm("access", "level"), alarm("access-2", "level"))).toEqual([
      "it fell; 2 of its 3 links strayed together, so most likely it is its own antenna",
    ]);
  });

  test("a bridge alone cannot tell; with something else at one of its masts it is that one", () => {
    expect(whats(alarm("bridge", "level"))[0]).toBe("it fell; levels do not tell which end moved");
    const found = whats(alarm("bridge", "level"), alarm("access", "level", { side: "b" }));
    expect(found.some((what) => what.includes(`strayed with it, so begin at ${place("site")}: a turn of about`))).toBe(
      true,
    );
    // Weeks later is another matter.
    const late = whats(
      alarm("bridge", "level"),
      alarm("access", "level", { side: "b", raisedDay: 130, sinceDay: 130 }),
    );
    expect(late[0]).toMatch(/do not tell which end moved$/);
  });

  test("a bridge alone is told by the noise that changed at one end with it, and how far that end turned", () => {
    const [west, east] = ["west", "east"].map((id) => world.sites.get(id)!.name);
    const what = (a: number, b: number, given: Partial<LinkAlarm> = {}) =>
      whats(alarm("bridge", "level", { noiseChangeDb: { a, b }, ...given }))[0];
    const turn = turnLosing(endOf(world, "east-west"), 3)!;
    expect(what(0.7, -2)).toBe(
      `it fell; the noise at ${east} changed by −2.0 dB with it and that at ${west} did not, so begin at ${east}: a turn of about ${turn.toFixed(1)}° loses that much`,
    );
    expect(what(1.5, 0)).toContain(`so begin at ${west}`);
    const cannotTell = "it fell; levels do not tell which end moved";
    expect([what(1.4, 0), what(-3, 0.8), what(3, 3)]).toEqual([cannotTell, cannotTell, cannotTell]);
    // Ice turns nothing, and a level that rose lost nothing.
    expect(what(2, 0, { causes: [{ cause: "ice", odds: 1, because: "" }] })).not.toContain("a turn of");
    expect(what(2, 0, { changeDb: 3 })).not.toContain("a turn of");
  });

  test("what lies in no antenna is not placed", () => {
    const causes = [{ cause: "water" as const, odds: 1, because: "" }];
    expect(whats(alarm("access", "level", { causes }))).toEqual(["it fell"]);
  });
});

test("a noise is placed by who hears it and looks where, and by whom beside him it was not raised", () => {
  const [what] = whats(alarm("access", "noise", { side: "a", what: "noise rose by 6.0 dB" }));
  const { name } = world.radios.get("sector")!;
  const bridge = world.radios.get("west-east")!.name;
  expect(what).toMatch(
    new RegExp(
      `^noise rose by 6.0 dB at ${name}, which looks 250° true; none was raised at ${bridge}, which looks \\d+° true$`,
    ),
  );
  const both = whats(
    alarm("access", "noise", { side: "a", what: "noise rose" }),
    alarm("bridge", "noise", { side: "a", what: "noise rose" }),
  );
  expect(both.every((one) => one.includes(", and at ") && !one.includes("none was raised"))).toBe(true);
});
