import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { isInSubnet, parsedAddress, parsedSubnet, proposeAddresses } from "#core/addressing";
import { endOf, withPatches, type World } from "#core/plan";
import {
  benchLevel,
  configSheet,
  laptopAddress,
  levelProblem,
  networkName,
  progressOf,
  settingText,
  sheetContext,
  sheetDifferences,
  STAGING_STEPS,
  stagingGroups,
  stagingProblems,
  stagingTexts,
  type StagingStep,
} from "#core/staging";
import { radioIn, town, valley, type ValleyRows } from "#core/testing";

/** The town with a network for every site and an address for every radio. */
function addressed(change: (rows: ValleyRows) => void = () => undefined): World {
  const { world } = valley(0, (rows) => {
    town(rows);
    rows.sites.forEach((site, i) => Object.assign(site, { subnet: `10.1.${i}.0/24`, gateway: `10.1.${i}.1` }));
    change(rows);
  });
  return withPatches(world, proposeAddresses(world));
}
const sheetOf = (world: World, id: string) => configSheet(world, id, sheetContext(world));

describe("a device's sheet", () => {
  test("an access point, its client and both ends of a bridge are set as the plan has them", () => {
    const world = addressed((rows) => {
      Object.assign(radioIn(rows, "sector-2"), { name: "Torre año 2", firmware: "4.1" });
      Object.assign(radioIn(rows, "r0"), { firmware: "3.0", txPowerDbm: 11 });
    });
    expect(sheetOf(world, "sector-2")).toMatchObject({
      settings: { mode: "access point", network: "Torre-ano-2", gateway: "10.1.2.1" },
      firmware: "4.1",
      keyRef: "network:sector-2",
      passwordRef: "device:sector-2",
    });
    const client = sheetOf(world, "r0");
    // Its access point's network, version, key and site; its own password, power and address.
    expect(client).toMatchObject({
      model: "Brisote Vela 5C",
      placeName: "house-0",
      settings: { mode: "client", network: "Torre-ano-2", gateway: "10.1.2.1", txPowerDbm: 11, widthMHz: 20 },
      firmware: "4.1",
      keyRef: "network:sector-2",
      passwordRef: "device:r0",
    });
    expect(client.settings.address).toBe(`${world.radios.get("r0")!.address}/24`);
    expect(client.settings.frequencyMHz).toBe(world.carriers.get("sector-2")!.frequencyMHz);
    expect(sheetOf(world, "west-east").settings).toMatchObject({ mode: "bridge near end", network: "west-east" });
    expect(sheetOf(world, "east-west").settings).toMatchObject({ mode: "bridge far end", network: "west-east" });
    expect(() => sheetOf(world, "nobody")).toThrow(RangeError);
  });

  test("what a device reports otherwise is named, in the sheet's order; what it does not report too", () => {
    const { settings } = sheetOf(addressed(), "r1");
    expect(sheetDifferences(settings, settings)).toEqual([]);
    const { gateway: _, ...rest } = settings;
    expect(sheetDifferences(settings, { ...rest, txPowerDbm: 20, name: "r2" })).toEqual([
      { setting: "name", wanted: "r1", found: "r2" },
      { setting: "gateway", wanted: settings.gateway, found: null },
      { setting: "txPowerDbm", wanted: settings.txPowerDbm, found: 20 },
    ]);
  });

  test("settings are told as people read them", () => {
    expect([5800, 13.5, -2, 1000, null, "", "x"].map(settingText)).toEqual(
      ["5800", "13.5", "−2", "1000", "left to the radio", "none", "x"], // prettier-ignore
    );
  });

  test("whatever a radio is called, its network has a name that every radio takes", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary", maxLength: 80 }), (text) => {
        expect(networkName(text)).toMatch(/^[A-Za-z0-9-]{1,32}$/);
      }),
    );
  });
});

describe("the order of the bench", () => {
  test("leaders come with those that follow them, each radio once", () => {
    const world = addressed();
    const groups = stagingGroups(world);
    expect(groups.flatMap(({ leaderId, followerIds }) => [leaderId, ...followerIds]).sort()).toEqual(
      [...world.radios.keys()].sort(),
    );
    expect(groups).toContainEqual({ leaderId: "sector-2", followerIds: ["r0", "r1", "r2"] });
    expect(groups).toContainEqual({ leaderId: "west-east", followerIds: ["east-west"] });
    // Who is asked for comes with the one that it is tried against.
    expect(stagingGroups(world, new Set(["r1", "nw"]))).toEqual([
      { leaderId: "nw", followerIds: [] },
      { leaderId: "sector-2", followerIds: ["r1"] },
    ]);
  });

  test("a radio without an address, or with one that somebody has, is not ready", () => {
    const { world } = valley(0, (rows) => {
      for (const one of rows.radios) one.address = "10.0.0.7";
      radioIn(rows, "sector").address = "";
    });
    const problems = stagingProblems(world);
    expect([...problems.keys()].sort()).toEqual(["east-west", "farm-radio", "sector"]);
    expect(problems.get("sector")).toContain("no address yet");
    expect(stagingProblems(addressed()).size).toBe(0);
  });

  test("the laptop's address lies beside the device's, is nobody's, and is no network's own", () => {
    expect(laptopAddress("192.168.1.20/24")).toBe("192.168.1.254/24");
    expect(laptopAddress("10.0.0.254/24")).toBe("10.0.0.253/24");
    expect(laptopAddress("10.0.0.1/30")).toBe("10.0.0.2/30");
    expect(laptopAddress("10.0.0.1/30", new Set(["10.0.0.2"]))).toBeNull();
    expect(laptopAddress("10.0.0.6/31")).toBe("10.0.0.7/31");
    expect(laptopAddress("10.9.0.1/16", new Set(["10.9.255.254"]))).toBe("10.9.255.253/16");
    expect(laptopAddress("2001:db8::1/64")).toBe("2001:db8::ffff:ffff:ffff:fffe/64");
    expect([laptopAddress("10.0.0.1"), laptopAddress("none/24"), laptopAddress("10.0.0.1/32")]).toEqual([
      null,
      null,
      null,
    ]);
    const octet = fc.integer({ min: 0, max: 255 });
    fc.assert(
      fc.property(octet, octet, fc.integer({ min: 8, max: 30 }), fc.array(octet), (third, last, length, others) => {
        const device = `10.20.${third}.${last}`;
        const taken = new Set(others.map((other) => `10.20.${third}.${other}`));
        const found = laptopAddress(`${device}/${length}`, taken);
        if (found === null) return;
        const [address] = found.split("/");
        expect(isInSubnet(parsedAddress(address!)!, parsedSubnet(`${device}/${length}`)!)).toBe(true);
        expect(address).not.toBe(device);
        expect(taken.has(address!)).toBe(false);
      }),
    );
  });
});

describe("two devices on the bench", () => {
  const world = addressed();
  const [from, to] = [endOf(world, "sector-2"), endOf(world, "r0")];

  test("hear no more than free space over three metres lets through, with the power down", () => {
    // 0 dBm out of 16.x dBi and into 22.x dBi; 20 log(4π · 3 m / λ) lies between.
    const { frequencyMHz } = from.radio;
    const lossDb = 20 * Math.log10((4 * Math.PI * 3 * frequencyMHz * 1e6) / 299_792_458);
    const gains = benchLevel(from, to).atMostDbm + lossDb - from.model.powerMinDbm;
    expect(gains).toBeGreaterThan(17 + 23 - 3);
    expect(gains).toBeLessThan(17 + 23 + 1);
    expect(benchLevel(from, to).weakenDb).toBeCloseTo(
      Math.max(0, benchLevel(from, to).atMostDbm - to.model.overloadDbm),
      9,
    );
    const lossy = (end: typeof from, cableLossDb: number) => ({ ...end, radio: { ...end.radio, cableLossDb } });
    expect(benchLevel(lossy(from, 4), to).atMostDbm).toBeCloseTo(benchLevel(from, to).atMostDbm - 4, 9);
    expect(benchLevel(from, lossy(to, 3)).atMostDbm).toBeCloseTo(benchLevel(from, to).atMostDbm - 3, 9);
    expect(benchLevel(from, to).atLeastDbm).toBe(benchLevel(from, to).atMostDbm - 35);
  });

  test("a dead chain, a loose plug and a power that is not down are told apart", () => {
    const level = { atMostDbm: -20, atLeastDbm: -55, weakenDb: 10 };
    expect(levelProblem([-25, -28], level)).toBeNull();
    expect(levelProblem([-17], level)).toBeNull();
    expect(levelProblem([-16.9], level)).not.toBeNull();
    expect(levelProblem([-10, -11], level)).toContain("power is not down");
    expect(levelProblem([-25, -40], level)).toContain("−25 dBm and −40 dBm");
    expect(levelProblem([-25, -31.1], level)).toContain("a chain is dead");
    expect(levelProblem([-56, -57], level)).toContain("at least −55 dBm");
  });
});

test("the steps say this device's own addresses, version, peer and level", () => {
  const world = addressed((rows) => {
    radioIn(rows, "sector-2").firmware = "4.1";
  });
  const context = sheetContext(world);
  const texts = stagingTexts(world, configSheet(world, "r0", context), context);
  expect(Object.keys(texts)).toEqual([...STAGING_STEPS]);
  expect(texts.alone).toContain("192.168.1.20");
  expect(texts.reach).toContain("192.168.1.254/24");
  expect(texts.firmware).toContain("4.1, as sector-2 is");
  expect(texts.back).toContain(`answers at ${world.radios.get("r0")!.address}.`);
  const { atMostDbm, weakenDb } = benchLevel(endOf(world, "sector-2"), endOf(world, "r0"));
  expect(texts.pair).toContain(`at most ${atMostDbm.toFixed(0).replace("-", "−")} dBm`);
  expect(texts.pair).toContain(`${weakenDb.toFixed(0)} dB more than the receiver takes`);
  for (const id of world.radios.keys())
    for (const text of Object.values(stagingTexts(world, configSheet(world, id, context), context)))
      expect(text).not.toMatch(/NaN|undefined|Infinity|null/);
});

test("a device is staged when what needs no hand is done, and packed when all is", () => {
  const tick = { at: "2026-11-26T10:00:00Z", who: "ana", note: "" };
  const done = (...left: StagingStep[]) => ({
    done: Object.fromEntries(STAGING_STEPS.filter((step) => !left.includes(step)).map((step) => [step, tick])),
  });
  expect(progressOf(undefined)).toEqual({ done: 0, isStaged: false, isPacked: false });
  expect(progressOf(done("label", "pack"))).toEqual({ done: 9, isStaged: true, isPacked: false });
  expect(progressOf(done("compare"))).toEqual({ done: 10, isStaged: false, isPacked: false });
  expect(progressOf(done())).toEqual({ done: 11, isStaged: true, isPacked: true });
});
