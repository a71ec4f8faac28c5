import { expect, test } from "@jest/globals";
import { evaluate } from "#core/evaluate";
import { heardTape, listeningIn } from "#core/interference";
import { setPatch, withPatches } from "#core/plan";
import { beamTable } from "#core/sectors";
import { radioIn, town, valley, type ValleyRows } from "#core/testing";

/** Two sectors side by side on one channel, each beside the other's customers; the ordinary antenna sends as much as the adaptive one. */
const sideBySide = (rows: ValleyRows) => {
  town(rows);
  radioIn(rows, "sector").txPowerDbm = radioIn(rows, "sector-2").txPowerDbm = 10;
};
const fitted = (antennaModelId: string) => {
  const { world, between } = valley(0, sideBySide);
  const then = withPatches(world, [setPatch("radios", "sector-2", { antennaModelId })]);
  return { world: then, between, answers: evaluate(then, between).answers };
};
const ADAPTIVE = "brisote-abanico-5-16-90";

test("a customer is heard louder by the beam's gain, less what the antenna sends less; what he hears does not change but by that", () => {
  const { answers: plain } = fitted("brisote-arco-5-17-90");
  const { answers: adaptive } = fitted(ADAPTIVE);
  for (const id of ["l0", "l1", "l2"]) {
    const [before, after] = [plain.get(id)!.path!, adaptive.get(id)!.path!];
    // The adaptive antenna sends 1 dB less, and its beam hears 6 dB more.
    expect(after.bToA.chainLevelDbm - before.bToA.chainLevelDbm).toBeCloseTo(5, 6);
    expect(after.bToA.beamDb).toBe(6);
    expect(after.aToB.chainLevelDbm - before.aToB.chainLevelDbm).toBeCloseTo(-1, 6);
    expect(after.aToB.beamDb).toBe(0);
  }
});

test("noise from beside the beam is put down, each customer's by where the beam looks; the lines of each add up to what his tape counts", () => {
  const { world, between, answers } = fitted(ADAPTIVE);
  const { answers: plain } = fitted("brisote-arco-5-17-90");
  const noises = ["l0", "l1", "l2"].map((id) => {
    const tape = answers.get(id)!.path!.bToA;
    expect(tape.question.heard!.radios.length).toBeGreaterThan(0);
    for (const heard of tape.question.heard!.radios) {
      const own = heardTape(listeningIn(world), world.links.get(id)!, "sector-2", heard.radioId, between)!;
      expect(own.arrivingDbm).toBeCloseTo(heard.dbm, 6);
      expect(own.lines.some(({ key }) => key === "beam")).toBe(true);
    }
    return tape.noiseDbm;
  });
  // The other sector's customer stands in the south, as the first house does: the beam on the last one looks past him.
  expect(noises).toEqual([...noises].sort((x, y) => y - x));
  const spread = plain.get("l2")!.path!.bToA.noiseDbm - noises[2]!;
  expect(spread).toBeGreaterThan(3);
  expect(noises[0]! - noises[2]!).toBeGreaterThan(spread);
});

test("the table says what each customer gains, and what its patches do is what it says", () => {
  const { world, between } = valley(0, sideBySide);
  const [row, ...others] = beamTable(world, "sector-2", between);
  expect(others).toEqual([]);
  expect(row!.antennaModelId).toBe(ADAPTIVE);
  expect(row!.customers).toHaveLength(3);
  const { answers } = evaluate(withPatches(world, row!.patches), between);
  const { answers: kept } = evaluate(world, between);
  for (const { linkId, isBeyond, then, now } of row!.customers) {
    const { snrDb, rateMbps } = answers.get(linkId)!.path!.bToA;
    expect(then.snrDb).toBeCloseTo(snrDb, 9);
    expect(then.rateMbps).toBe(rateMbps);
    const { noise: before, snrDb: snrBefore } = kept.get(linkId)!.path!.bToA;
    expect(now).toEqual({ snrDb: snrBefore, rateMbps: now.rateMbps, riseDb: before.riseDb });
    expect(then.snrDb).toBeGreaterThan(now.snrDb);
    expect(isBeyond).toBe(false);
  }
  const gains = row!.customers.map(({ now, then }) => then.snrDb - now.snrDb);
  expect(gains).toEqual([...gains].sort((x, y) => y - x));
  expect(row!.costEur).toBe(690 - 145);
  expect(row!.radioModel).toBeNull();
});

test("a customer beside where the beam can look is named, and loses", () => {
  const { world, between } = valley(0, (rows) => {
    sideBySide(rows);
    radioIn(rows, "sector-2").azimuthDeg = 15;
  });
  for (const { isBeyond, now, then } of beamTable(world, "sector-2", between)[0]!.customers) {
    expect(isBeyond).toBe(true);
    expect(then.snrDb).toBeLessThan(now.snrDb);
  }
});

test("a radio that turns no beam is named with the one that does; where nobody does there is no row", () => {
  const other = valley(0, (rows) => {
    sideBySide(rows);
    radioIn(rows, "sector-2").radioModelId = "brisote-tramo-5";
  });
  expect(beamTable(other.world, "sector-2", other.between)[0]!.radioModel).toBe("Vela 5");
  const none = valley(0, (rows) => {
    sideBySide(rows);
    for (const one of rows.equipment) if (one.kind === "radio") one.body.steersBeam = false;
  });
  expect(beamTable(none.world, "sector-2", none.between)).toEqual([]);
});
