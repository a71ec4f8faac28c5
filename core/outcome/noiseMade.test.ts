import { expect, test } from "@jest/globals";
import { patternLossDb, peakGainDbi } from "#core/antenna";
import { changesNoise, noiseMadePeopleKm2 } from "#core/outcome";
import { removePatch, setPatch, withPatches, type World } from "#core/plan";
import { radio, valley, type ValleyRows } from "#core/testing";

const sector = {
  siteId: "west",
  role: "sector",
  radioModelId: "brisote-vela-5",
  antennaModelId: "brisote-arco-5-17-90",
};
/** A sector on the western mast that looks east, with one customer of its own and a stranger `eastKm` and `northKm` away. */
function alone(
  eastKm: number,
  northKm: number,
  change: (rows: ValleyRows) => void = () => undefined,
  latDeg = -1,
): World {
  return valley(0, (rows) => {
    rows.links = rows.links.filter(({ kind }) => kind === "access");
    rows.radios = rows.radios.filter(({ role }) => role !== "bridge");
    Object.assign(
      rows.radios.find(({ id }) => id === "sector")!,
      { azimuthDeg: 90, cableLossDb: 1, txPowerDbm: 19 },
    );
    const degree = 111.2;
    const shrink = Math.cos((latDeg * Math.PI) / 180);
    for (const row of [...rows.sites, ...rows.subscribers]) row.latDeg += latDeg + 1;
    rows.subscribers.push({
      ...rows.subscribers[0]!,
      ...{ id: "stranger", people: 7, latDeg: latDeg + northKm / degree, lonDeg: 20 + eastKm / (degree * shrink) },
    });
    change(rows);
  }).world;
}

/** Worked out by hand: how far ahead of the sector its signal is above the noise of 20 MHz with a noise figure of 6 dB, km. */
function aheadKm(world: World): number {
  const { antennaModelId, frequencyMHz, txPowerDbm, cableLossDb, polarization } = world.radios.get("sector")!;
  const antenna = world.antennaModels.get(antennaModelId)!;
  const floorDbm = -173.975 + 10 * Math.log10(20e6) + 6;
  const eirpDbm = txPowerDbm - cableLossDb + peakGainDbi(antenna, frequencyMHz, polarization);
  const lossDb = eirpDbm - floorDbm;
  return 10 ** ((lossDb - 92.45 - 20 * Math.log10(frequencyMHz / 1000)) / 20);
}
function litKm2(world: World): number {
  const { antennaModelId, azimuthDeg, polarization } = world.radios.get("sector")!;
  const antenna = world.antennaModels.get(antennaModelId)!;
  let sum = 0;
  for (let bearing = 0; bearing < 360; bearing++) {
    const lossDb = patternLossDb(antenna, polarization, ((bearing - azimuthDeg! + 540) % 360) - 180, 0);
    sum += (Math.PI / 360) * Math.min(40, aheadKm(world) * 10 ** (-lossDb / 20)) ** 2;
  }
  return sum;
}

test("noise made is the lit ground times the people on it who are others", () => {
  const world = alone(10, 0);
  expect(aheadKm(world)).toBeGreaterThan(10);
  expect(noiseMadePeopleKm2(world) / (7 * litKm2(world))).toBeCloseTo(1, 2);
});

test("its own customers do not count, nor whoever it does not reach", () => {
  expect(noiseMadePeopleKm2(alone(41, 0))).toBe(0);
  // Behind it, it reaches less far by its front-to-back ratio.
  const behind = alone(-10, 0);
  const antenna = behind.antennaModels.get(sector.antennaModelId)!;
  const backKm = aheadKm(behind) * 10 ** (-patternLossDb(antenna, "HV", 180, 0) / 20);
  expect(backKm).toBeLessThan(10);
  expect(noiseMadePeopleKm2(behind)).toBe(0);
  expect(noiseMadePeopleKm2(alone(-backKm * 0.98, 0))).toBeGreaterThan(0);
  expect(noiseMadePeopleKm2(alone(-backKm * 1.02, 0))).toBe(0);
});

test("less power makes less, and turning away from people makes none of it for them", () => {
  const world = alone(5, 0);
  const quieter = withPatches(world, [setPatch("radios", "sector", { txPowerDbm: 16 })]);
  const shares = noiseMadePeopleKm2(quieter) / noiseMadePeopleKm2(world);
  // Three decibels take away half the area, where the horizon does not cut it.
  expect(shares).toBeGreaterThan(0.45);
  expect(shares).toBeLessThan(1);
  const turned = withPatches(world, [setPatch("radios", "sector", { azimuthDeg: 270 })]);
  expect(noiseMadePeopleKm2(turned)).toBe(0);
});

test("a bridge that is not turned by hand looks along itself", () => {
  const bridge = (northKm: number) =>
    alone(6, northKm, (rows) => {
      rows.radios.push(radio("near", { siteId: "west" }), radio("far", { siteId: "east" }));
      rows.radios = rows.radios.filter(({ id }) => id !== "sector" && id !== "farm-radio");
      rows.links = [{ ...rows.links[0]!, id: "one", kind: "bridge", aRadioId: "near", bRadioId: "far" }];
      rows.subscribers.shift();
    });
  expect(noiseMadePeopleKm2(bridge(0))).toBeGreaterThan(0);
  expect(noiseMadePeopleKm2(bridge(0))).toBeGreaterThan(noiseMadePeopleKm2(bridge(-12)));
});

test("far from the equator a degree of longitude is as short as it is there", () => {
  const reachKm = aheadKm(alone(0, 0, undefined, 60));
  expect(noiseMadePeopleKm2(alone(reachKm * 0.98, 0, undefined, 60))).toBeGreaterThan(0);
  expect(noiseMadePeopleKm2(alone(reachKm * 1.02, 0, undefined, 60))).toBe(0);
  // Over the 180th meridian too.
  const beyond = (km: number) =>
    alone(km, 0, (rows) => {
      for (const row of [...rows.sites, ...rows.subscribers]) row.lonDeg += 159.97;
      for (const row of rows.subscribers) if (row.lonDeg > 180) row.lonDeg -= 360;
    });
  expect(noiseMadePeopleKm2(beyond(reachKm * 0.9))).toBeGreaterThan(0);
  expect(noiseMadePeopleKm2(beyond(reachKm * 1.1))).toBe(0);
});

test("both ends of a bridge count, each along itself, whatever way it runs", () => {
  const bridge = (eastKm: number, northKm: number) =>
    alone(
      eastKm,
      northKm,
      (rows) => {
        rows.radios = [radio("near", { siteId: "west" }), radio("far", { siteId: "east" })];
        rows.links = [{ ...rows.links[0]!, id: "one", kind: "bridge", aRadioId: "near", bRadioId: "far" }];
        rows.subscribers.shift();
        // Ten kilometres north-east.
        const east = rows.sites.find(({ id }) => id === "east")!;
        Object.assign(east, { latDeg: 45 + 7 / 111.2, lonDeg: 20 + 7 / (111.2 * Math.cos(Math.PI / 4)) });
      },
      45,
    );
  // Behind the near end, in the beam of the far one; behind the far one, in that of the near one; and beside both.
  expect(noiseMadePeopleKm2(bridge(-5, -5))).toBeGreaterThan(0);
  expect(noiseMadePeopleKm2(bridge(12, 12))).toBeGreaterThan(0);
  expect(noiseMadePeopleKm2(bridge(-12, 12))).toBe(0);
});

test("a change that leaves the noise says so, and one that may not is never passed over", () => {
  // The stranger stands where only a sector at this power, heading and place is heard.
  const world = alone(4, 0);
  const before = noiseMadePeopleKm2(world);
  expect(changesNoise([setPatch("subscribers", "stranger", { demandMbps: 3 })])).toBe(false);
  expect(
    changesNoise([setPatch("plans", "valley", { name: "Other" }), setPatch("sites", "west", { notes: "bees" })]),
  ).toBe(false);
  const changes = [
    setPatch("radios", "sector", { txPowerDbm: 3 }),
    setPatch("radios", "sector", { cableLossDb: 9 }),
    setPatch("radios", "sector", { azimuthDeg: 200 }),
    setPatch("sites", "west", { latDeg: -1.2 }),
    setPatch("subscribers", "stranger", { people: 900, notes: "a school" }),
    removePatch("links", [...world.links.keys()][0]!),
  ];
  for (const change of changes) {
    expect(changesNoise([change])).toBe(true);
    expect([change, noiseMadePeopleKm2(withPatches(world, [change]))]).not.toEqual([change, before]);
  }
});
