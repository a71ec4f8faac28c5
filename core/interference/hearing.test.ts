import { expect, test } from "@jest/globals";
import { patternLossDb, peakGainDbi } from "#core/antenna";
import { inverseGeodesic } from "#core/geodesy";
import { earsOf, listeningIn } from "#core/interference";
import { mastIsolationDb } from "#core/mast";
import { endOf, setPatch, withPatches, type Radio } from "#core/plan";
import { freeSpaceLossDb, thermalNoiseDbm } from "#core/propagation";
import { channelCouplingDb } from "#core/spectrum";
import { EIGHTY_GHZ, onBridge, radio, radioIn, valley, type Valley, type ValleyRows } from "#core/testing";

/** A second bridge north of the valley's own, between two further masts, on its channel unless told otherwise. */
function beside(rest: Partial<Radio> = {}, southDeg = 0.01) {
  return (rows: ValleyRows) => {
    const site = rows.sites[0]!;
    rows.sites.push(
      { ...site, id: "north-west", name: "north-west", latDeg: -1 + southDeg, isFeed: false },
      { ...site, id: "north-east", name: "north-east", latDeg: -1 + southDeg, lonDeg: 20.11, isFeed: false },
    );
    rows.radios.push(radio("nw", { siteId: "north-west", ...rest }), radio("ne", { siteId: "north-east", ...rest }));
    rows.links.push({
      ...rows.links.find(({ kind }) => kind === "bridge")!,
      id: "second",
      aRadioId: "nw",
      bRadioId: "ne",
    });
  };
}
const heard = (made: Valley, linkId = "bridge") =>
  earsOf(listeningIn(made.world), made.between)(made.world.links.get(linkId)!);
const level = (made: Valley, at: "a" | "b", from: string) =>
  heard(made)[at].radios.find(({ radioId }) => radioId === from)?.dbm;

test("across the valley by hand: power, both gains in the true direction, free space, and a chain's half", () => {
  const made = valley(0, beside());
  const [from, to] = [endOf(made.world, "ne"), endOf(made.world, "west-east")];
  const line = inverseGeodesic(from.place, to.place);
  // The second bridge's far end looks due west; the first one's near end due east.
  const gain = (off: number) => peakGainDbi(to.antenna, 5800) - patternLossDb(to.antenna, "HV", off, 0);
  const fromOff = Math.abs(line.azimuthDeg - 270);
  const toOff = Math.abs(line.backAzimuthDeg - 90);
  const byHand =
    20 +
    gain(fromOff) -
    freeSpaceLossDb({ distanceKm: line.distanceM / 1000, frequencyGHz: 5.8 }) +
    gain(toOff) -
    10 * Math.log10(2) +
    channelCouplingDb({ offsetMHz: 0, txWidthMHz: 20, rxWidthMHz: 20, rejectionDb: to.model.adjacentRejectionDb });
  expect(level(made, "a", "ne")!).toBeCloseTo(byHand, 0);
  expect(heard(made).a.radios[0]).toMatchObject({
    radioId: "ne",
    name: "ne",
    placeName: "north-east",
    frequencyMHz: 5800,
    widthMHz: 20,
  });
});

test("all that is heard is a sum of powers, the loudest first", () => {
  const { a } = heard(valley(0, beside()));
  const sum = a.radios.reduce((milliwatts, { dbm }) => milliwatts + 10 ** (dbm / 10), 0);
  // One of the two ends is so faint that it counts in free sight, with all others of its kind.
  expect(a.radios.length + a.faintCount).toBe(2);
  expect(a.dbm! - 10 * Math.log10(sum)).toBeGreaterThanOrEqual(0);
  expect(a.dbm! - 10 * Math.log10(sum)).toBeLessThan(0.09);
  for (let i = 1; i < a.radios.length; i++) expect(a.radios[i]!.dbm).toBeLessThanOrEqual(a.radios[i - 1]!.dbm);
  expect(heard(valley()).a).toEqual({ dbm: null, radios: [], faintCount: 0 });
});

test("thirty equal transmitters raise the noise by all thirty, not by the first dozen", () => {
  const crowd = (count: number) =>
    valley(0, (rows) => {
      for (let i = 0; i < count; i++) {
        // All on one spot, which looks past the ear: each so faint that alone it is hardly noticed.
        const place = { latDeg: -1.003, lonDeg: 20.11 };
        rows.sites.push(
          { ...rows.sites[0]!, ...place, id: `m${i}`, name: `m${i}`, isFeed: false },
          { ...rows.sites[0]!, ...place, id: `n${i}`, name: `n${i}`, lonDeg: 20.13, isFeed: false },
        );
        rows.radios.push(
          radio(`m${i}`, { siteId: `m${i}`, txPowerDbm: 4.5 }),
          radio(`n${i}`, { siteId: `n${i}`, txPowerDbm: -40 }),
        );
        rows.links.push({ ...rows.links[0]!, id: `crowd${i}`, aRadioId: `m${i}`, bRadioId: `n${i}` });
      }
    });
  const oneDbm = heard(crowd(1)).a.dbm!;
  expect(heard(crowd(30)).a.dbm!).toBeCloseTo(oneDbm + 10 * Math.log10(30), 1);
  const { model, radio: to } = endOf(made30.world, "west-east");
  const thermalDbm = thermalNoiseDbm({ bandwidthMHz: to.widthMHz, noiseFigureDb: model.noiseFigureDb });
  const riseDb = (dbm: number) => 10 * Math.log10(1 + 10 ** ((dbm - thermalDbm) / 10));
  expect(riseDb(oneDbm)).toBeLessThan(0.6);
  expect(riseDb(heard(crowd(30)).a.dbm!)).toBeGreaterThan(4);
});
const made30 = valley();

test("cables at both ends, walls and less power take what they take", () => {
  const plain = level(valley(0, beside()), "a", "ne")!;
  expect(level(valley(0, beside({ cableLossDb: 2 })), "a", "ne")).toBeCloseTo(plain - 2, 6);
  expect(level(valley(0, beside({ txPowerDbm: 13 })), "a", "ne")).toBeCloseTo(plain - 7, 6);
  const far = valley(0, (rows) => {
    beside()(rows);
    radioIn(rows, "west-east").cableLossDb = 1.5;
  });
  expect(level(far, "a", "ne")).toBeCloseTo(plain - 1.5, 6);
});

test("channels: how far they overlap counts; far apart nobody is heard", () => {
  const plain = level(valley(0, beside()), "a", "ne")!;
  const half = level(valley(0, beside({ frequencyMHz: 5790 })), "a", "ne")!;
  expect(plain - half).toBeCloseTo(3, 0);
  expect(level(valley(0, beside({ frequencyMHz: 5700 })), "a", "ne")).toBeUndefined();
});

test("who stands beyond forty kilometres is not looked for", () => {
  // A bridge far to the west that looks straight into the ear of the eastern mast, 111.3 km to the degree.
  const from = (lonDeg: number) =>
    valley(0, (rows) => {
      beside()(rows);
      rows.sites.find(({ id }) => id === "north-west")!.latDeg = -1;
      rows.sites.find(({ id }) => id === "north-west")!.lonDeg = lonDeg;
      Object.assign(
        rows.sites.find(({ id }) => id === "north-east")!,
        { latDeg: -1, lonDeg: lonDeg + 0.1 },
      );
    });
  expect(level(from(20.11 - 39.8 / 111.3), "b", "nw")).toBeGreaterThan(-75);
  expect(level(from(20.11 - 40.2 / 111.3), "b", "nw")).toBeUndefined();
});

test("in FDD one end's ear is on the other's mouth: the far ends of two pairs do not disturb each other", () => {
  const made = valley(0, (rows) => {
    onBridge(EIGHTY_GHZ)(rows);
    beside(EIGHTY_GHZ, 0.001)(rows);
  });
  const { a, b } = heard(made);
  // West listens on 83.5 GHz, where both far ends send; east on 73.5, where both near ends do.
  expect(a.radios.map(({ radioId }) => radioId)).toEqual(["ne"]);
  expect(b.radios.map(({ radioId }) => radioId)).toEqual(["nw"]);
  expect(a.radios[0]!.frequencyMHz).toBe(83_500);
  expect(b.radios[0]!.frequencyMHz).toBe(73_500);
});

test("on one mast the antennas' coupling counts instead of a path, with the far gains behind and beside", () => {
  const made = valley(0, (rows) => {
    const second = radio("second-near", { siteId: "west", heightM: 23, azimuthDeg: 90 });
    // Its far end stands to the north, out of anybody's beam.
    rows.sites.push({ ...rows.sites[1]!, id: "north", name: "north", latDeg: -0.985, lonDeg: 20 });
    rows.radios.push(second, radio("second-far", { siteId: "north", txPowerDbm: -5 }));
    rows.links.push({ ...rows.links[0]!, id: "second", aRadioId: "second-near", bRadioId: "second-far" });
  });
  const to = endOf(made.world, "west-east");
  const beside90 = peakGainDbi(to.antenna, 5800) - patternLossDb(to.antenna, "HV", 90, 0);
  const ruleDb = mastIsolationDb({
    verticalM: 3,
    horizontalM: 0.5,
    frequencyGHz: 5.8,
    aGainDbi: beside90,
    bGainDbi: beside90,
  });
  // Three metres up, free space with both patterns straight up and down is less.
  const slantDeg = (Math.atan2(3, 0.5) * 180) / Math.PI;
  const upDbi = peakGainDbi(to.antenna, 5800) - patternLossDb(to.antenna, "HV", 90, slantDeg);
  const isolation = freeSpaceLossDb({ distanceKm: Math.hypot(3, 0.5) / 1000, frequencyGHz: 5.8 }) - 2 * upDbi;
  expect(isolation).toBeLessThan(ruleDb);
  const coupling = channelCouplingDb({
    offsetMHz: 0,
    txWidthMHz: 20,
    rxWidthMHz: 20,
    rejectionDb: to.model.adjacentRejectionDb,
  });
  expect(level(made, "a", "second-near")).toBeCloseTo(20 - isolation - 10 * Math.log10(2) + coupling, 3);
  // No ground lies between two antennas of one mast.
  const asked: number[] = [];
  earsOf(listeningIn(made.world), (from, end) => {
    asked.push(inverseGeodesic(from, end).distanceM);
    return made.between(from, end);
  })(made.world.links.get("bridge")!);
  expect(asked.length).toBeGreaterThan(0);
  expect(Math.min(...asked)).toBeGreaterThan(100);
});

test("what makes no difference beside thermal noise is left out", () => {
  const made = valley(0, beside({ txPowerDbm: -5 }, 0.2));
  const to = endOf(made.world, "west-east");
  const thermal = thermalNoiseDbm({ bandwidthMHz: 20, noiseFigureDb: to.model.noiseFigureDb });
  for (const { dbm } of [...heard(made).a.radios, ...heard(made).b.radios]) expect(dbm).toBeGreaterThan(thermal - 30);
});

test("who talks under whom: an access point's customers under it, a far end under the near one, others under nobody", () => {
  const { world } = valley(0, (rows) => void rows.radios.push(radio("spare", { siteId: "west" })));
  const { groups } = listeningIn(world).air().talks;
  expect(["sector", "farm-radio", "west-east", "east-west", "spare"].map((id) => groups.get(id))).toEqual([
    "sector",
    "sector",
    "west-east",
    "west-east",
    undefined,
  ]);
});

test("who keeps one time is not heard by those who send with it, and still by those who listen then", () => {
  const own = valley(0, beside());
  const timed = (groups: Record<string, string>): Valley => {
    const carriers = Object.entries(groups).map(([id, timingGroup]) => setPatch("carriers", id, { timingGroup }));
    return { ...own, world: withPatches(own.world, carriers) };
  };
  const carriers = ["nw", "ne"].map((id) => endOf(own.world, id).radio.carrierId);
  const groups = (name: string) => ({ "west-east": "north", ...Object.fromEntries(carriers.map((id) => [id, name])) });
  const turnedRound = (made: Valley): Valley => ({
    ...made,
    world: withPatches(made.world, [setPatch("links", "second", { aRadioId: "ne", bRadioId: "nw" })]),
  });
  // The near end in the west looks at the far end in the east of the second bridge: one sends while the other listens.
  expect(level(timed(groups("north")), "a", "ne")).toBeCloseTo(level(own, "a", "ne")!, 9);
  expect(level(timed(groups("north")), "b", "nw")).toBeCloseTo(level(own, "b", "nw")!, 9);
  // Turned round, near end looks at near end: in one group they send together, in two or none they hear each other.
  expect(level(turnedRound(timed(groups("north"))), "a", "ne")).toBeUndefined();
  expect(level(turnedRound(timed(groups("north"))), "b", "nw")).toBeUndefined();
  expect(level(turnedRound(timed(groups("south"))), "a", "ne")).toBeCloseTo(level(own, "a", "ne")!, 9);
  expect(level(turnedRound(timed(groups(""))), "a", "ne")).toBeCloseTo(level(own, "a", "ne")!, 9);
});
