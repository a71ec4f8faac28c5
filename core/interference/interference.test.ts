import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { peakGainDbi } from "#core/antenna";
import { reviewPlan } from "#core/evaluate";
import { linksOf } from "#core/findings";
import { answerOf } from "#core/outcome";
import { proposeBridge } from "#core/propose";
import { earsOf, listeningIn } from "#core/interference";
import { inverseGeodesic } from "#core/geodesy";
import { endOf, withPatches, type Radio } from "#core/plan";
import { freeSpaceLossDb } from "#core/propagation";
import { channelCouplingDb } from "#core/spectrum";
import { radio, radioIn, valley, type ValleyRows } from "#core/testing";

/** A second access link of the valley: a sector at east that looks west, on the first one's channel unless told otherwise. */
const facing =
  (rest: Partial<Radio> = {}) =>
  (rows: ValleyRows) => {
    const sector = radioIn(rows, "sector");
    rows.radios.push(
      { ...sector, id: "sector-2", name: "sector 2", siteId: "east", azimuthDeg: 270, ...rest },
      radio("barn-radio", {
        subscriberId: "barn",
        role: "subscriber",
        radioModelId: "brisote-vela-5c",
        antennaModelId: "brisote-losa-5-23",
        txPowerDbm: 10,
        ...rest,
        frequencyMHz: rest.frequencyMHz ?? sector.frequencyMHz,
        azimuthDeg: null,
        tiltDownDeg: null,
        heightM: 8,
      }),
    );
    rows.subscribers.push({ ...rows.subscribers[0]!, id: "barn", name: "barn", lonDeg: 20.114, latDeg: -1.001 });
    rows.links.push({ ...rows.links[1]!, id: "access-2", aRadioId: "sector-2", bRadioId: "barn-radio" });
  };
const heardAt = (made: ReturnType<typeof valley>, id: string) =>
  earsOf(listeningIn(made.world), made.between)(made.world.links.get(id)!);

test("two sectors that face each other on one channel hear each other as the sum of power, gains and free space says", () => {
  const made = valley(0, (rows) => {
    facing({ tiltDownDeg: -2, heightM: 30 })(rows);
    radioIn(rows, "sector").tiltDownDeg = -2;
  });
  const { a } = heardAt(made, "access");
  const heard = a.radios.find(({ radioId }) => radioId === "sector-2")!;
  const [near, far] = [endOf(made.world, "sector"), endOf(made.world, "sector-2")];
  const { distanceM } = inverseGeodesic(near.place, far.place);
  const gain = peakGainDbi(far.antenna, 5200);
  const share = channelCouplingDb({ offsetMHz: 0, txWidthMHz: 20, rxWidthMHz: 20, rejectionDb: 18 });
  const loss = freeSpaceLossDb({ distanceKm: distanceM / 1000, frequencyGHz: 5.2 });
  // 19 dBm, two chains; the first sector looks 5° beside, so a fraction of a decibel of its pattern is lost.
  const byHand = 19 + 2 * gain - loss - 10 * Math.log10(2) + share;
  expect(Math.abs(heard.dbm - byHand)).toBeLessThan(0.6);
  expect(heard).toMatchObject({ placeName: "east", frequencyMHz: 5200 });
});

test("a ridge, another channel, a wall and a crossed polarization each keep the noise away by what they take", () => {
  const dbm = (change: (rows: ValleyRows) => void, ridgeM = 0) =>
    heardAt(
      valley(ridgeM, (rows) => {
        facing({ heightM: 30 })(rows);
        change(rows);
      }),
      "access",
    ).a.radios.find(({ radioId }) => radioId === "sector-2")?.dbm ?? -Infinity;
  const open = dbm(() => undefined);
  expect(dbm(() => undefined, 90)).toBeLessThan(open - 15);
  expect(dbm((rows) => void (radioIn(rows, "sector-2").frequencyMHz = 5240))).toBeLessThan(open - 30);
  const crossed = dbm((rows) => {
    radioIn(rows, "sector").polarization = "H";
    radioIn(rows, "sector-2").polarization = "V";
  });
  expect(crossed).toBeLessThan(open - 15);
  expect(dbm((rows) => void (radioIn(rows, "sector-2").azimuthDeg = 90))).toBeLessThan(open - 20);
  expect(dbm((rows) => void (radioIn(rows, "sector-2").txPowerDbm = 9))).toBeCloseTo(open - 10, 6);
  expect(dbm((rows) => void (radioIn(rows, "sector").cableLossDb = 2))).toBeCloseTo(open - 2, 6);
});

test("those who talk with one access point take turns, and a radio without a link is silent", () => {
  const made = valley(0, facing());
  const { a, b } = heardAt(made, "access");
  const ids = [...a.radios, ...b.radios].map(({ radioId }) => radioId);
  expect(ids).not.toContain("sector");
  expect(ids).not.toContain("farm-radio");
  const unlinked = valley(0, (rows) => {
    facing()(rows);
    rows.links.pop();
  });
  expect(heardAt(unlinked, "access").a.radios.map(({ radioId }) => radioId)).not.toContain("sector-2");
  // Two customers of the other sector: only the louder counts, since they never send at once.
  const twice = valley(0, (rows) => {
    facing({ azimuthDeg: 90 })(rows);
    rows.radios.push({ ...radioIn(rows, "barn-radio"), id: "barn-2", name: "barn-2", txPowerDbm: 4 });
    rows.links.push({ ...rows.links.at(-1)!, id: "access-3", bRadioId: "barn-2" });
    radioIn(rows, "sector").azimuthDeg = 90;
  });
  const customers = heardAt(twice, "access").a.radios.filter(({ radioId }) => radioId.startsWith("barn"));
  expect(customers.map(({ radioId }) => radioId)).toEqual(["barn-radio"]);
});

test("on one mast the coupling of its antennas counts, and height parts them best", () => {
  const onMast = (heightM: number) =>
    heardAt(
      valley(0, (rows) => {
        radioIn(rows, "sector").frequencyMHz = radioIn(rows, "farm-radio").frequencyMHz = 5800;
        radioIn(rows, "sector").heightM = heightM;
      }),
      "bridge",
    ).a.radios.find(({ radioId }) => radioId === "sector")!.dbm;
  expect(onMast(20)).toBeGreaterThan(-70);
  expect(onMast(24)).toBeLessThan(onMast(20) - 25);
});

test("the noise of one's own stands on the tape, lowers the rate, and is one finding for all whom it hurts", () => {
  const quiet = valley();
  const loud = valley(0, facing({ heightM: 30 }));
  const tape = (made: ReturnType<typeof valley>) =>
    answerOf(made.world, made.world.links.get("access")!, made.between).path!.bToA;
  expect(tape(quiet).noise.source).toBe("none");
  expect(tape(loud).noise).toMatchObject({ source: "own", outsideDb: 0 });
  expect(tape(loud).snrDb).toBeCloseTo(tape(quiet).snrDb - tape(loud).noise.riseDb, 6);
  expect(tape(loud).rateMbps).toBeLessThan(tape(quiet).rateMbps);
  const { findings } = reviewPlan(loud.world, loud.between);
  const own = findings.filter(({ check: kind }) => kind === "ownNoise");
  expect(own).toHaveLength(1);
  expect(linksOf(own[0]!).sort()).toEqual(["access", "access-2"]);
  expect(own[0]!.people).toBe(6);
  expect(own[0]!.what).toMatch(
    /on the same channel \(5200 MHz\), raises the noise at (east|west|farm|barn) by \d+\.\d dB/,
  );
  const [remedy] = own[0]!.remedies!;
  const left = reviewPlan(withPatches(loud.world, remedy!.patches), loud.between, 0).findings;
  expect(left.some(({ check: kind }) => kind === "ownNoise")).toBe(false);
});

test("a transmitter more never raises anybody's signal to noise, and more power of it never lowers the noise", () => {
  fc.assert(
    fc.property(
      fc.constantFrom(5180, 5200, 5220, 5800),
      fc.integer({ min: 0, max: 359 }),
      fc.integer({ min: 0, max: 20 }),
      (frequencyMHz, azimuthDeg, txPowerDbm) => {
        const noise = (dbm: number) => {
          const made = valley(0, facing({ frequencyMHz, azimuthDeg, txPowerDbm: dbm, heightM: 25 }));
          return made.rows.links.map(({ id }) => {
            const { path } = answerOf(made.world, made.world.links.get(id)!, made.between);
            return [path!.aToB.noise.riseDb, path!.bToA.noise.riseDb];
          });
        };
        const quiet = valley();
        const before = quiet.rows.links.map(({ id }) => {
          const { path } = answerOf(quiet.world, quiet.world.links.get(id)!, quiet.between);
          return [path!.aToB.noise.riseDb, path!.bToA.noise.riseDb];
        });
        const [less, more] = [noise(txPowerDbm), noise(txPowerDbm + 5)];
        before.forEach((pair, i) =>
          pair.forEach((rise, k) => {
            expect(less[i]![k]).toBeGreaterThanOrEqual(rise - 1e-9);
            // Whether a faint one is looked at at all may change by a hair.
            expect(more[i]![k]).toBeGreaterThanOrEqual(less[i]![k]! - 0.1);
          }),
        );
      },
    ),
    { numRuns: 15, seed: 3 },
  );
});

test("a second bridge on a mast is proposed on a channel that the first leaves quiet", () => {
  const made = valley(
    0,
    (rows) => void rows.sites.push({ ...rows.sites[1]!, id: "third", name: "third", latDeg: -1.01 }),
  );
  let count = 0;
  const patches = proposeBridge(
    made.world,
    made.world.sites.get("west")!,
    made.world.sites.get("third")!,
    () => `new-${count++}`,
  )!;
  const [carrier, ...others] = patches.flatMap(({ kind, put }) => (kind === "carriers" && put ? [put] : []));
  expect(others).toEqual([]);
  expect(Math.abs(carrier!.frequencyMHz - 5800)).toBeGreaterThanOrEqual(30);
});
