import { expect, test } from "@jest/globals";
import { radio, radioIn, valley, type ValleyRows } from "#core/testing";
import { scansFor } from "./CombScans";
import { combBands, mastMates, nearestOnMast } from "./groups";

/** The valley with a second sector on its west mast. */
const two = (rows: ValleyRows) => {
  rows.radios.push(
    radio("north", {
      ...radioIn(rows, "sector"),
      id: "north",
      name: "north",
      carrierId: "north",
      azimuthDeg: 5,
      frequencyMHz: 5260,
    }),
    radio("house", { ...radioIn(rows, "farm-radio"), id: "house", carrierId: "north", frequencyMHz: 5260 }),
  );
  rows.links.push({ ...rows.links[1]!, id: "second", aRadioId: "north", bRadioId: "house" });
};

test("a bridge stands on the masts of both its ends, and the nearest channel of a mast is told edge to edge", () => {
  const [band] = combBands(valley(0, two).world);
  const row = (id: string) => band!.rows.find(({ radioId }) => radioId === id)!;
  expect(row("west-east").siteIds).toEqual(["west", "east"]);
  expect(mastMates(band!, row("sector")).map(({ radioId }) => radioId)).toEqual(["north", "west-east"]);
  // 5200 and 5260 MHz, 20 MHz wide each.
  expect(nearestOnMast(band!, row("sector"))).toEqual({ other: row("north"), apartMHz: 40 });
  const alone = combBands(valley(0, (rows) => (rows.links = rows.links.slice(1))).world)[0]!;
  expect(nearestOnMast(alone, alone.rows[0]!)).toBeNull();
});

test("a stretch says what its rule asks, and a row whose antenna looks somewhere is spoken for by scans of that direction", () => {
  const [band] = combBands(valley(0, two).world);
  const row = band!.rows.find(({ radioId }) => radioId === "sector")!;
  const dfs = row.open.filter(({ flags }) => flags.includes("DFS"));
  expect(dfs.length).toBeGreaterThan(0);
  for (const { lowMHz, highMHz } of dfs) expect(lowMHz >= 5250 && highMHz <= 5725).toBe(true);
  expect(row.open.some(({ flags }) => flags.length === 0)).toBe(true);
  const scan = (headingDeg: number) => ({ headingDeg, beamwidthDeg: 60 }) as Parameters<typeof scansFor>[0][number];
  // The sector looks at 95°: half the scan's opening and 15° more count.
  expect(scansFor([scan(95), scan(139), scan(141), scan(275)], row).map(({ headingDeg }) => headingDeg)).toEqual([
    95, 139,
  ]);
  expect(scansFor([scan(0), scan(180)], { ...row, looksDeg: null })).toHaveLength(2);
  // A bridge looks at its far end: east.
  expect(band!.rows.find(({ radioId }) => radioId === "west-east")!.looksDeg).toBeCloseTo(90, 0);
});
