import { describe, expect, test } from "@jest/globals";
import {
  antennaModelSchema,
  hearsWidths,
  patternLossDb,
  peakGainDbi,
  withShield,
  type AntennaModel,
} from "#core/antenna";
import { valley } from "#core/testing";

const { antennaModels } = valley().world;
const sector = antennaModels.get("brisote-arco-5-17-90")!;
const shield = {
  name: "hood",
  ...{ behindDb: 8, fromDeg: 90, frontDb: 0.5, rimDb: 4, weightKg: 1.5, priceEur: 60 },
};

describe("a shield", () => {
  const shielded = withShield(sector, shield, "hooded");
  const more = (offDeg: number) => patternLossDb(shielded, "HV", offDeg, 0) - patternLossDb(sector, "HV", offDeg, 0);

  test("takes gain ahead, width toward its rim, and gives isolation behind", () => {
    expect(peakGainDbi(shielded, 5600, "V")).toBeCloseTo(peakGainDbi(sector, 5600, "V") - 0.5, 9);
    expect(more(0)).toBeCloseTo(0, 9);
    expect(more(45)).toBeCloseTo(1, 6);
    expect(more(90)).toBeCloseTo(4, 6);
    expect(more(-90)).toBeCloseTo(4, 6);
    expect(more(100)).toBeCloseTo(8, 6);
    // Far behind the front-to-back ratio is what counts, and it grows by what the shield takes.
    expect(shielded.frontToBackDb).toBe(sector.frontToBackDb + 8);
    expect(more(180)).toBeGreaterThan(7);
  });

  test("makes an antenna of its own that the library takes", () => {
    expect(antennaModelSchema.safeParse(shielded).success).toBe(true);
    expect(shielded).toMatchObject({ id: "hooded", model: `${sector.model} + hood`, priceEur: sector.priceEur + 60 });
    expect(shielded.weightKg).toBeCloseTo(sector.weightKg + 1.5, 9);
    expect(withShield(sector, { ...shield, behindDb: 90 }, "x").frontToBackDb).toBe(80);
  });
});

describe("how wide an antenna hears", () => {
  const lobed = (besideDb: number): AntennaModel => {
    const cut = {
      anglesDeg: [-180, -40, -30, -20, -10, 0, 10, 20, 30, 40, 180],
      lossDb: [50, 50, besideDb, 50, 20, 0, 20, 50, besideDb, 50, 50],
    };
    return { ...sector, azimuthCuts: { H: cut, V: cut }, frontToBackDb: 60 };
  };
  test("is the main lobe's width where nothing beside it is as strong as 20 dB under the peak", () => {
    const { mainDeg, hearsDeg } = hearsWidths(lobed(30), "V");
    expect(mainDeg).toBeCloseTo(19.5, 9);
    expect(hearsDeg).toBe(mainDeg);
  });
  test("reaches to the outermost lobe that is", () => {
    const { mainDeg, hearsDeg } = hearsWidths(lobed(10), "V");
    expect(mainDeg).toBeCloseTo(19.5, 9);
    // From 10 dB at 30° it falls to 20 dB at 32.5°.
    expect(hearsDeg).toBeCloseTo(2 * 32.25, 9);
  });
});
