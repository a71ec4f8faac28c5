import { expect, test } from "@jest/globals";
import { worldOf, type Site } from "#core/plan";
import { densityCells, placeVerdicts, type ReadPlace } from "#core/survey";
import { valley } from "#core/testing";

const { rows, world } = valley();
let count = 0;
const makeId = () => `new-${count++}`;
const read = (name: string, rest: Partial<ReadPlace> = {}): ReadPlace => ({
  ...{ row: 2, kind: "subscriber", name, latDeg: -1.1, lonDeg: 20.2, said: {} },
  ...rest,
});
const verdicts = (places: ReadPlace[], nearM = 5) => placeVerdicts(world, places, nearM, makeId);

test("a place that nobody knows is new, with the usual where its file says nothing", () => {
  const [house, mast] = verdicts([read("House"), read("Mast", { kind: "site", latDeg: -1.2, said: { height: 18 } })]);
  expect([house!.verdict, mast!.verdict]).toEqual(["new", "new"]);
  expect(house!.patch).toMatchObject({
    kind: "subscribers",
    put: {
      name: "House",
      antennaHeightM: 6,
      maxHeightM: 9,
      people: 2,
      status: "asked",
      demandMbps: 20,
      demandUpMbps: 5,
    },
  });
  expect(mast!.patch).toMatchObject({
    kind: "sites",
    put: { name: "Mast", structureHeightM: 18, structureKind: "mast", power: "mains", isFeed: false, freeMounts: 4 },
  });
});

test("a place of a known name changes what its file says and keeps the rest", () => {
  const farm = world.subscribers.get("farm")!;
  const [changed] = verdicts([read("farm", { latDeg: farm.latDeg, lonDeg: farm.lonDeg, said: { people: 7 } })]);
  expect(changed!.verdict).toBe("changed");
  expect(changed!.note).toContain("people");
  expect(changed!.patch).toEqual({
    kind: "subscribers",
    id: "farm",
    set: expect.objectContaining({ people: 7 }),
  });
  const [same] = verdicts([read("farm", { latDeg: farm.latDeg, lonDeg: farm.lonDeg })]);
  expect([same!.verdict, same!.patch]).toEqual(["same", null]);
  // What files do not hold is not put back to what is usual.
  const solar = worldOf({ ...rows, sites: rows.sites.map((one) => ({ ...one, panelW: 700, subnet: "10.1.0.0/24" })) });
  const west = solar.sites.get("west")!;
  const at = { kind: "site" as const, latDeg: west.latDeg, lonDeg: west.lonDeg };
  const [again] = placeVerdicts(solar, [read("west", { ...at, said: { mounts: 9 } })], 5, makeId);
  expect(again!.patch).toEqual({ kind: "sites", id: "west", set: { freeMounts: 9 } });
  // The same name of another kind is another place.
  const [site] = verdicts([read("farm", { kind: "site", latDeg: farm.latDeg, lonDeg: farm.lonDeg })]);
  expect(site!.verdict).toBe("new");
});

test("two of one name in a file, and two that stand together, may be one", () => {
  const [first, second] = verdicts([read("House"), read("House", { row: 3, latDeg: -1.3 })]);
  expect([first!.verdict, second!.verdict]).toEqual(["new", "duplicate"]);
  // 4 m apart: 0.000036 degrees of latitude.
  const near = verdicts([read("House"), read("Annex", { row: 3, latDeg: -1.1 + 0.000036 })]);
  expect(near.map(({ verdict }) => verdict)).toEqual(["new", "duplicate"]);
  const far = verdicts([read("House"), read("Annex", { row: 3, latDeg: -1.1 + 0.00006 })]);
  expect(far.map(({ verdict }) => verdict)).toEqual(["new", "new"]);
  expect(verdicts([read("House"), read("Annex", { row: 3 })], 0).map(({ verdict }) => verdict)).toEqual(["new", "new"]);
});

test("places are kept to a tenth of a metre", () => {
  const [house] = verdicts([read("House", { latDeg: -1.123456789, lonDeg: 20.987654321 })]);
  expect(house!.patch!.put as Site).toMatchObject({ latDeg: -1.123457, lonDeg: 20.987654 });
});

test("customers are counted on squares that are as wide as high, at any latitude, densest first", () => {
  for (const latDeg of [0.5, 37.5, 65]) {
    const at = (north: number, east: number, demandMbps = 10) => ({
      latDeg: latDeg + north / 111.195,
      lonDeg: 10 + east / (111.195 * Math.cos((latDeg * Math.PI) / 180)),
      demandMbps,
    });
    const cells = densityCells([at(0, 0), at(0.01, 0.01, 30), at(3, 3)]);
    expect(cells.reduce((sum, { count: here }) => sum + here, 0)).toBe(3);
    const [densest] = cells;
    expect(densest!.count).toBeGreaterThanOrEqual(cells.at(-1)!.count);
    const heightKm = (densest!.northDeg - densest!.southDeg) * 111.195;
    const widthKm = (densest!.eastDeg - densest!.westDeg) * 111.195 * Math.cos((latDeg * Math.PI) / 180);
    expect([heightKm, widthKm]).toEqual([expect.closeTo(1, 6), expect.closeTo(1, 1)]);
  }
  const half = densityCells([{ latDeg: 1.0001, lonDeg: 1.0001, demandMbps: 5 }], 0.5);
  expect(half[0]).toMatchObject({ count: 1, perKm2: 4, demandMbps: 5 });
  expect(() => densityCells([], 0)).toThrow("cellKm is 0; it must be above 0");
});
