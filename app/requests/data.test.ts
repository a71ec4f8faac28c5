import { expect, test } from "@jest/globals";
import { valley } from "#core/testing";
import { fileName } from "./fileName";
import { unfitTextIn } from "../shared/fitText";
import {
  DEFAULT_PREFERENCES,
  isTileUrl,
  preferencesCookie,
  preferencesIn,
  readPreferences,
} from "../shared/preferences";
import { authorOf, signature } from "../access/author.server";
import { treesInRay } from "#core/link";
import { areaIndex, arraySurface, coverCode, sampleProfile } from "#core/terrain";
import { profileFromWire, profileToWire } from "#wire";

const asking = (cookie?: string) => new Request("http://127.0.0.1/", cookie ? { headers: { cookie } } : {});

test("preferences go into a cookie and come back, whatever other cookies stand beside it", () => {
  const mine = {
    ...DEFAULT_PREFERENCES,
    theme: "dark" as const,
    name: "Ana Ñ; =x",
    tileUrl: "https://t.test/{z}/{x}/{y}.png",
  };
  const cookie = preferencesCookie(mine).split(";")[0]!;
  expect(preferencesCookie(mine)).toContain("SameSite=Strict; HttpOnly");
  expect(readPreferences(asking(`other=1; ${cookie}; more=2`))).toEqual(mine);
  expect(signature(asking(cookie))).toBe("Ana Ñ; =x");
});

test("a broken cookie is the default, a broken field of it alone is", () => {
  expect(readPreferences(asking())).toEqual(DEFAULT_PREFERENCES);
  expect(readPreferences(asking("tejado=%7Bnot json"))).toEqual(DEFAULT_PREFERENCES);
  const odd = encodeURIComponent(JSON.stringify({ theme: "neon", units: "imperial", tileUrl: "javascript:{z}{x}{y}" }));
  expect(preferencesIn(`tejado=${odd}`)).toEqual({ ...DEFAULT_PREFERENCES, units: "imperial" });
  expect(signature(asking())).toBe("planner");
});

test("a tile address is one of the web with all three of its parts", () => {
  expect(isTileUrl("https://tiles.test/{z}/{x}/{y}.png")).toBe(true);
  expect(isTileUrl("http://127.0.0.1:8080/t?z={z}&x={x}&y={y}")).toBe(true);
  for (const url of ["https://tiles.test/{z}/{x}.png", "ftp://t.test/{z}/{x}/{y}", "//t/{z}/{x}/{y}", "https://"])
    expect([url, isTileUrl(url)]).toEqual([url, false]);
});

test("a profile crosses the wire exact to the bit, holes and all", () => {
  const made = valley(30);
  for (const to of [
    { latDeg: -1, lonDeg: 20.11 },
    { latDeg: -1, lonDeg: 20.4 },
  ]) {
    const profile = made.between({ latDeg: -1.001, lonDeg: 20 }, to);
    const back = profileFromWire(
      JSON.parse(JSON.stringify(profileToWire(profile))) as ReturnType<typeof profileToWire>,
    );
    expect(back).toEqual(profile);
  }
});

test("a wood of a raster and a hedge that was drawn are as deep behind the wire as before it", () => {
  const frame = { westDeg: 20, northDeg: 1, cellLonDeg: 0.0003, cellLatDeg: 1, columns: 200, rows: 1 };
  const heightM = Float32Array.from({ length: 200 }, (_, column) => (column >= 80 && column < 83 ? 15 : 0));
  const code = Uint8Array.from(heightM, (height) => (height > 0 ? coverCode("wood") : 0));
  const surface = arraySurface(frame, new Float32Array(200), { heightM, code });
  const hedge: [number, number][] = [
    [20.0401, 0.4],
    [20.04015, 0.4],
    [20.04015, 0.6],
    [20.0401, 0.6],
    [20.0401, 0.4],
  ];
  const areas = areaIndex([{ kind: "wood", heightM: 12, density: 1, rings: [hedge] }]);
  const ends = [20.005, 20.055].map((lonDeg) => ({ latDeg: 0.5, lonDeg }));
  const profile = sampleProfile({ layers: [{ surface, kind: "bare" }], areas }, ends[0]!, ends[1]!);
  const back = profileFromWire(JSON.parse(JSON.stringify(profileToWire(profile))) as ReturnType<typeof profileToWire>);
  expect(profile.runEdges!.size).toBe(2);
  expect(back).toEqual({ ...profile, obstructionsInto: undefined });
  const deep = treesInRay(profile, 6, 6, 4 / 3);
  expect(deep.depthM).toBeCloseTo((3 * 0.0003 + 0.00005) * 111_319.5, 0);
  expect(treesInRay(back, 6, 6, 4 / 3)).toEqual(deep);
});

test("undo belongs to a person by name wherever they sit, else to the browser", () => {
  const named = preferencesCookie({ ...DEFAULT_PREFERENCES, name: "Ana" }).split(";")[0]!;
  expect(authorOf(asking(`tejado_browser=b-1; ${named}`))).toEqual({ who: "Ana", authors: ["name:Ana"] });
  expect(authorOf(asking("other=1; tejado_browser=b-1"))).toEqual({
    who: "planner",
    authors: ["browser:b-1", "name:planner"],
  });
  expect(authorOf(asking())).toEqual({ who: "planner", authors: ["name:planner"] });
});

test("names become names of files", () => {
  expect(fileName("Isla Orvena / año: 2")).toBe("Isla Orvena  ano 2");
  expect(fileName("…/…")).toBe("tejado");
});

test("a text that cannot be kept is named by its place, however deep or wide what it stands in", () => {
  expect(unfitTextIn({ rows: [{ name: "fine" }, { name: "half \ud800" }] })).toBe("rows.1.name");
  expect(unfitTextIn({ a: { "b\0": 1 } })).toBe("a");
  expect(unfitTextIn({ "\0": 1 })).toBe("a name");
  expect(unfitTextIn("\0")).toBe("the text");
  expect(unfitTextIn(["fine", ["\0"]])).toBe("1.0");
  expect([unfitTextIn(null), unfitTextIn(7), unfitTextIn({ a: [[], {}, "ß 🗼", null, true] })]).toEqual([
    null,
    null,
    null,
  ]);
  let deep: unknown = "\0";
  for (let i = 0; i < 300_000; i++) deep = [deep];
  expect(unfitTextIn(deep)).toHaveLength(2 * 300_000 - 1);
  expect(unfitTextIn(Array.from({ length: 3_000_000 }, () => []))).toBeNull();
});
