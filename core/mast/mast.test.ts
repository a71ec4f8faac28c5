import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { patternLossDb, peakGainDbi } from "#core/antenna";
import { freeSpaceLossDb } from "#core/propagation";
import { hearingAt, listeningIn } from "#core/interference";
import { couplingOf, mastIsolationDb, mastPairs, radiosOnMast, respacing } from "#core/mast";
import { setPatch, withPatches } from "#core/plan";
import { EIGHTY_GHZ, onBridge, radio, valley, type ValleyRows } from "#core/testing";

/** Two sectors of one width and channel on the bridge's mast. */
function crowdedMast(rows: ValleyRows): void {
  const sector = rows.radios.find(({ id }) => id === "sector")!;
  rows.radios.push({ ...sector, id: "south", name: "south", carrierId: "south", azimuthDeg: 180, heightM: 29 });
  const client = rows.radios.find(({ id }) => id === "farm-radio")!;
  rows.subscribers.push({ ...rows.subscribers[0]!, id: "barn", name: "barn", latDeg: -1.01, lonDeg: 20.001 });
  rows.radios.push({ ...client, id: "barn-radio", name: "barn-radio", subscriberId: "barn", carrierId: "south" });
  rows.links.push({ ...rows.links[1]!, id: "barn", aRadioId: "south", bRadioId: "barn-radio" });
}
const made = valley(0, crowdedMast);
const hung = radiosOnMast(made.world, "west");
const pair = (fromId: string, toId: string) =>
  mastPairs(hung).find((one) => one.fromId === fromId && one.toId === toId)!;

describe("a mast", () => {
  test("holds its radios from the top down, each with the way it looks", () => {
    expect(hung.map(({ end }) => end.radio.id)).toEqual(["sector", "south", "west-east"]);
    expect(hung.map(({ headingDeg }) => (headingDeg === null ? null : Math.round(headingDeg)))).toEqual([95, 180, 90]);
    const omni = [...made.world.antennaModels.values()].find(({ shape }) => shape === "omni")!;
    const round = withPatches(made.world, [setPatch("radios", "south", { antennaModelId: omni.id, azimuthDeg: null })]);
    expect(radiosOnMast(round, "west").map(({ headingDeg }) => headingDeg === null)).toEqual([false, true, false]);
  });

  test("tells for each pair what the noise of the tapes counts", () => {
    const link = made.world.links.get("access")!;
    const { noise } = hearingAt(listeningIn(made.world), link, "sector", made.between);
    const heard = noise.radios.find(({ radioId }) => radioId === "south")!;
    expect(heard.dbm).toBeCloseTo(pair("south", "sector").arrivingDbm!, 9);
  });

  test("each figure follows from the others", () => {
    const { isolationDb, verticalM, horizontalM, fromGainDbi, toGainDbi, channelDb, arrivingDbm, raisesDb } = pair(
      "sector",
      "south",
    );
    expect(verticalM).toBe(1);
    expect(isolationDb).toBeCloseTo(
      mastIsolationDb({ verticalM, horizontalM, frequencyGHz: 5.2, aGainDbi: fromGainDbi, bGainDbi: toGainDbi }),
      9,
    );
    // On one channel nothing but its mask's skirts is lost.
    expect(channelDb).toBeGreaterThan(-1);
    // Of two chains' power one chain hears half.
    expect(arrivingDbm).toBeCloseTo(19 - isolationDb + channelDb! - 10 * Math.log10(2), 9);
    expect(raisesDb).toBeGreaterThan(30);
    // The bridge's channel lies 600 MHz off.
    expect(pair("west-east", "sector")).toMatchObject({ channelDb: null, arrivingDbm: null, raisesDb: 0 });
    expect(mastPairs(hung)[0]!.raisesDb).toBe(Math.max(...mastPairs(hung).map((one) => one.raisesDb)));
  });

  test("radios of one timing group never send while the other listens", () => {
    expect(pair("sector", "south").isTimed).toBe(false);
    const timed = withPatches(made.world, [
      setPatch("carriers", "sector", { timingGroup: "mast" }),
      setPatch("carriers", "south", { timingGroup: "mast" }),
    ]);
    const [first] = mastPairs(radiosOnMast(timed, "west")).filter(({ isTimed }) => isTimed);
    expect([first!.fromId, first!.toId].sort()).toEqual(["sector", "south"]);
  });
});

test("far up a mast, isolation is never more than free space with both patterns", () => {
  const dish = radio("upper", { heightM: 30 });
  const end = (heightM: number) => ({
    radio: { ...dish, heightM },
    antenna: made.world.antennaModels.get(dish.antennaModelId)!,
  });
  const far = couplingOf(end(30), 90, end(20), 90, 5800);
  const { antenna } = end(0);
  const upDeg = (Math.atan2(10, 0.5) * 180) / Math.PI;
  const gainDbi = peakGainDbi(antenna, 5800) - patternLossDb(antenna, "HV", 90, upDeg);
  expect(far.isFree).toBe(true);
  expect(far.isolationDb).toBeCloseTo(
    freeSpaceLossDb({ distanceKm: Math.hypot(10, 0.5) / 1000, frequencyGHz: 5.8 }) - 2 * gainDbi,
    9,
  );
  // Close together the rule for near antennas is the lower one.
  expect(couplingOf(end(20.2), 90, end(20), 90, 5800).isFree).toBe(false);
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 40, noNaN: true }),
      fc.double({ min: 0, max: 180, noNaN: true }),
      (up, apart) => {
        const { isolationDb, verticalM, horizontalM } = couplingOf(end(20 + up), 90, end(20), 90 + apart, 5800);
        const freeDb = freeSpaceLossDb({ distanceKm: Math.hypot(verticalM, horizontalM) / 1000, frequencyGHz: 5.8 });
        expect(isolationDb).toBeLessThanOrEqual(freeDb + 2 * antenna.frontToBackDb);
      },
    ),
  );
});

test("an FDD pair's ends disturb by what each sends on, and only near ends of a sync group send together", () => {
  const pairOn = (site: string, rest: Parameters<typeof radio>[1]) => (rows: ValleyRows) => {
    rows.sites.push({ ...rows.sites[1]!, id: "north", name: "north", latDeg: -0.985, lonDeg: 20 });
    rows.radios.push(radio("n1", { siteId: site, ...rest }), radio("n2", { siteId: "north", ...rest }));
    rows.links.push({
      ...rows.links[0]!,
      id: "second",
      aRadioId: site === "west" ? "n1" : "n2",
      bRadioId: site === "west" ? "n2" : "n1",
    });
  };
  const fdd = { ...EIGHTY_GHZ, antennaModelId: "kestrane-plato-80-50" };
  const mast = valley(0, (rows) => {
    onBridge(fdd)(rows);
    pairOn("west", { ...fdd, heightM: 25 })(rows);
  });
  const between = (of: typeof mast, from: string, to: string) =>
    mastPairs(radiosOnMast(of.world, "west")).find((one) => one.fromId === from && one.toId === to)!;
  // Two near ends send low and listen high: they do not meet, ten gigahertz apart.
  expect(between(mast, "n1", "west-east").channelDb).toBeNull();
  const timed = (isNear: boolean) => {
    const of = valley(0, (rows) => {
      const at = { heightM: 25 };
      rows.sites.push({ ...rows.sites[1]!, id: "north", name: "north", latDeg: -0.985, lonDeg: 20 });
      rows.radios.push(radio("n1", { siteId: "west", ...at }), radio("n2", { siteId: "north" }));
      const [aRadioId, bRadioId] = isNear ? ["n1", "n2"] : ["n2", "n1"];
      rows.links.push({ ...rows.links[0]!, id: "second", aRadioId: aRadioId!, bRadioId: bRadioId! });
    });
    const carrier = isNear ? "n1" : "n2";
    const world = withPatches(of.world, [
      setPatch("carriers", "west-east", { timingGroup: "t" }),
      setPatch("carriers", carrier, { timingGroup: "t" }),
      setPatch("radios", "n1", { carrierId: carrier }),
    ]);
    return mastPairs(radiosOnMast(world, "west")).find((one) => one.fromId === "n1" && one.toId === "west-east")!
      .isTimed;
  };
  expect([timed(true), timed(false)]).toEqual([true, false]);
});

describe("spacing", () => {
  test("that wastes the mast's room is spread out in the same order, and the worst pair gains", () => {
    const { heights, worstNowDb, worstThenDb } = respacing(hung, 40)!;
    expect(heights).toEqual([
      { radioId: "sector", heightM: 40 },
      { radioId: "south", heightM: 30 },
      { radioId: "west-east", heightM: 20 },
    ]);
    expect(worstThenDb).toBeGreaterThan(worstNowDb + 3);
    const then = withPatches(
      made.world,
      heights.map(({ radioId, heightM }) => setPatch("radios", radioId, { heightM })),
    );
    const meeting = mastPairs(radiosOnMast(then, "west")).filter(({ channelDb }) => channelDb !== null);
    expect(meeting).toHaveLength(2);
    const worst = Math.min(...meeting.map(({ isolationDb }) => isolationDb));
    expect(worst).toBeCloseTo(worstThenDb, 9);
  });

  test("that is as good as it gets, or of one radio alone, is left", () => {
    const spread = withPatches(made.world, [
      setPatch("radios", "sector", { heightM: 40 }),
      setPatch("radios", "south", { heightM: 30 }),
    ]);
    expect(respacing(radiosOnMast(spread, "west"), 40)).toBeNull();
    expect(respacing(hung.slice(0, 1), 40)).toBeNull();
    // Radios whose channels do not meet gain nothing by it.
    expect(respacing([hung[0]!, hung[2]!], 40)).toBeNull();
    const alone = valley(0, (rows) => {
      rows.sites.push({ ...rows.sites[0]!, id: "bare" });
      rows.radios.push(radio("lone", { siteId: "bare" }));
    });
    expect(mastPairs(radiosOnMast(alone.world, "bare"))).toEqual([]);
  });
});
