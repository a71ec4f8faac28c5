import { expect, test } from "@jest/globals";
import { linksOn, withPatches, endOf, type Scan } from "#core/plan";
import { eirpLimit, ruleSetOf } from "#core/regulation";
import { radioIn, valley, type ValleyRows } from "#core/testing";
import { channelsMHz, groupChannelsMHz, groupName, groupOn } from "./channels";
import { quietChannelsMHz, quietestChannelMHz } from "./quiet";

/** The valley with a second customer on its sector. */
const two = (change: (rows: ValleyRows) => void = () => undefined) =>
  valley(0, (rows) => {
    rows.radios.push({ ...radioIn(rows, "farm-radio"), id: "barn-radio", name: "barn-radio" });
    rows.links.push({ ...rows.links.find(({ id }) => id === "access")!, id: "access-2", bRadioId: "barn-radio" });
    change(rows);
  }).world;

test("who shares a channel: an access point with all its customers, a bridge with its far end", () => {
  const world = two();
  expect(linksOn(world, "sector").map(({ id }) => id)).toEqual(["access", "access-2"]);
  expect(linksOn(world, "west-east").map(({ id }) => id)).toEqual(["bridge"]);
  expect(linksOn(world, "farm-radio")).toEqual([]);
  expect([groupName(world, "sector"), groupName(world, "west-east"), groupName(valley().world, "sector")]).toEqual([
    "sector and its 2 customers",
    "both ends of west-east",
    "sector and its 1 customer",
  ]);
});

test("a channel is changed for the whole group, each radio under its cap there", () => {
  const world = two((rows) => void (radioIn(rows, "sector").txPowerDbm = 19));
  const patches = groupOn(world, "sector", 5300, 40);
  // The channel stands once, for all of them; whoever would pass the cap there is turned down.
  expect(patches.filter(({ kind }) => kind === "carriers")).toEqual([
    { kind: "carriers", id: "sector", set: { frequencyMHz: 5300, widthMHz: 40 } },
  ]);
  for (const patch of patches) if (patch.kind === "radios") expect(Object.keys(patch.set!)).toEqual(["txPowerDbm"]);
  const after = withPatches(world, patches);
  for (const id of ["sector", "farm-radio", "barn-radio"])
    expect(after.radios.get(id)).toMatchObject({ frequencyMHz: 5300, widthMHz: 40 });
  // 24 dBm of power less the 11 dB that 17 dBi have over 6.
  expect(after.radios.get("sector")!.txPowerDbm).toBeLessThan(19);
  const quiet = groupOn(
    two((rows) => void (radioIn(rows, "sector").txPowerDbm = 3)),
    "sector",
    5300,
    40,
  );
  expect(quiet.filter(({ kind, id }) => kind === "radios" && id === "sector")).toEqual([]);
});

test("channels that a group can stand on: the rules', the radios' and the antennas' bands at once", () => {
  const world = two();
  const wide = groupChannelsMHz(world, "sector", 80);
  expect(wide).toEqual([5190, 5290, 5510, 5590, 5670, 5765]);
  expect(groupChannelsMHz(world, "sector", 20)[0]).toBe(5160);
  expect(groupChannelsMHz(world, "sector", 15)).toEqual([]);
  const narrowKit = two((rows) => {
    for (const item of rows.equipment)
      if (item.kind === "antenna" && item.id === radioIn(rows, "farm-radio").antennaModelId)
        item.body = { ...item.body, bandMHz: [5500, 5850] };
  });
  expect(groupChannelsMHz(narrowKit, "sector", 80)).toEqual([5510, 5590, 5670, 5765]);
});

test("the quietest channel is the one on which the plan's own masts send least, near ones most", () => {
  const { world } = valley();
  const kit = endOf(world, "sector");
  const west = world.sites.get("west")!;
  const ranked = quietChannelsMHz(world, [west], kit, 20, 5800, "ptmp");
  // The mast's own bridge stands on 5800 and its sector on 5200: neither is anywhere near the front.
  expect(Math.abs(ranked[0] - 5800)).toBeGreaterThanOrEqual(40);
  expect(ranked.indexOf(5800)).toBeGreaterThan(ranked.length - 5);
  expect(quietestChannelMHz(world, [west], kit, 20, 5800, "ptmp")).toBe(ranked[0]);
  expect(new Set(ranked).size).toBe(ranked.length);
  // Where nobody sends, the preferred one stays.
  const silent = { ...world, radios: new Map() };
  expect(quietestChannelMHz(silent, [west], kit, 20, 5785, "ptmp")).toBe(5785);
});

test("a new sector’s first channel keeps off what a scan at its site heard, what hangs on its mast, and what the rules close", () => {
  const scanned = (loudMHz: number): Scan => ({
    ...{
      id: "scan",
      planId: "valley",
      siteId: "west",
      headingDeg: 0,
      beamwidthDeg: 360,
      gainDbi: 0,
      polarization: "V",
    },
    ...{ scannedAt: "2026-03-01T10:00:00.000Z", source: "test", binKHz: 1000 },
    frequenciesMHz: Array.from({ length: 760 }, (_, i) => 5140 + i),
    levelsDbm: Array.from({ length: 760 }, (_, i) => (Math.abs(5140 + i - loudMHz) <= 15 ? -67.7 : -125)),
  });
  const first = (loudMHz: number) => {
    const { world } = valley(0, (rows) => void rows.scans.push(scanned(loudMHz)));
    const kit = endOf(world, "sector");
    const chosenMHz = quietestChannelMHz(world, [world.sites.get("west")!], kit, 20, 5785, "ptmp");
    // Neither on the mast's own bridge nor on its sector, and within what the rules leave open outdoors.
    for (const own of ["west-east", "sector"])
      expect(Math.abs(chosenMHz - world.radios.get(own)!.frequencyMHz)).toBeGreaterThanOrEqual(20);
    expect(channelsMHz(world, "ptmp", 20)).toContain(chosenMHz);
    return chosenMHz;
  };
  const quiet = first(5900);
  const kept = first(quiet);
  expect(Math.abs(kept - quiet)).toBeGreaterThan(20);
  expect(first(5785)).not.toBe(5785);
});

test("less power is a price like noise: a channel with lower caps stands behind until the others are noisier", () => {
  const { world } = valley();
  const west = world.sites.get("west")!;
  const silent = { ...world, radios: new Map() };
  const kit = endOf(world, "sector");
  const ranked = quietChannelsMHz(silent, [west], kit, 20, 5785, "ptmp");
  // Between 5250 and 5725 MHz the caps are 6 dB lower.
  const lower = ranked.filter((mhz) => mhz > 5250 && mhz < 5725);
  expect(ranked.slice(-lower.length)).toEqual(lower);
  // A scan that hears 6 dB and more all over the upper band turns the order.
  const levels = (mhz: number) => (mhz > 5725 ? -75 : -100);
  const frequenciesMHz = Array.from({ length: 141 }, (_, i) => 5150 + i * 5);
  const scan = {
    ...{
      id: "s",
      planId: "valley",
      siteId: "west",
      scannedAt: "2026-01-01T00:00:00Z",
      headingDeg: 90,
      beamwidthDeg: 360,
    },
    ...{ gainDbi: 0, polarization: "H" as const, binKHz: 5000, frequenciesMHz, levelsDbm: frequenciesMHz.map(levels) },
  };
  const scanned = { ...silent, scansBySite: new Map([["west", [scan as unknown as Scan]]]) };
  const best = quietestChannelMHz(scanned, [west], kit, 20, 5785, "ptmp");
  expect(best).toBeLessThan(5725);
});

test("channels lie on their rule's raster, outdoors alone, at every width", () => {
  for (const ruleSetId of ["cfr47", "en"])
    for (const widthMHz of [5, 10, 20, 40, 80, 160, 250, 500, 1000, 2000])
      for (const use of ["ptp", "ptmp"] as const) {
        const { world } = valley();
        const plan = { ...world.plan, ruleSetId };
        for (const frequencyMHz of channelsMHz({ ...world, plan }, use, widthMHz)) {
          const limit = eirpLimit({ ruleSet: ruleSetOf(plan), frequencyMHz, widthMHz, use, antennaGainDbi: 50 });
          expect([ruleSetId, widthMHz, frequencyMHz, limit.covered]).toEqual([ruleSetId, widthMHz, frequencyMHz, true]);
          expect(limit.flags).not.toContain("indoorOnly");
        }
      }
  const narrow = channelsMHz(valley().world, "ptmp", 5).filter((mhz) => mhz > 5150 && mhz < 5250);
  expect(narrow.slice(0, 3)).toEqual([5155, 5160, 5165]);
});
