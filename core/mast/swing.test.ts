import { expect, test } from "@jest/globals";
import { backhaulOf } from "#core/capacity";
import { checkOf } from "#core/findings";
import { radiosOnMast, strikesOn, SWING_GAP_M, windAreaOf } from "#core/mast";
import { setPatch, withPatches } from "#core/plan";
import { radio, valley } from "#core/testing";

/** Two dishes on the western mast, the second `apartM` under the first, `turnDeg` from its heading. */
const twoDishes = (apartM: number, turnDeg = 0, antennaModelId = "brisote-plato-5-30") =>
  valley(0, (rows) => {
    rows.radios = rows.radios.filter(({ id }) => id === "west-east");
    rows.links = [];
    Object.assign(rows.radios[0]!, { heightM: 30, azimuthDeg: 90, antennaModelId });
    rows.radios.push(
      radio("second", { siteId: "west", heightM: 30 - apartM, azimuthDeg: 90 + turnDeg, antennaModelId }),
    );
  }).world;
const strikes = (world: ReturnType<typeof twoDishes>) => strikesOn(radiosOnMast(world, "west"));

test("two dishes that look the same way strike until one passes over the other with room for a hand", () => {
  const antenna = twoDishes(1).antennaModels.get("brisote-plato-5-30")!;
  const neededM = windAreaOf(antenna).heightM + SWING_GAP_M;
  expect(neededM).toBeGreaterThan(0.4);
  expect(strikes(twoDishes(neededM - 0.05))).toEqual([
    { upperId: "west-east", lowerId: "second", apartM: expect.closeTo(neededM - 0.05, 9), neededM },
  ]);
  expect(strikes(twoDishes(neededM))).toEqual([]);
  expect(strikes(twoDishes(neededM + 0.05))).toEqual([]);
});

test("those that look apart hang on other sides of the mast", () => {
  expect(strikes(twoDishes(0.1, 60))).toHaveLength(1);
  expect(strikes(twoDishes(0.1, 61))).toEqual([]);
  expect(strikes(twoDishes(0.1, -90))).toEqual([]);
});

test("the finding says how far apart they pass, and each way out was tried", () => {
  const world = twoDishes(0.2);
  const check = checkOf("swing");
  const [fault, ...others] = check.ofPlan!(world, new Map(), backhaulOf(world, new Map()));
  expect(others).toEqual([]);
  expect(fault).toMatchObject({ radioId: "second", where: "second at west" });
  expect(fault!.what).toMatch(/^0\.20 m under west-east; they pass each other from 0\.\d\d m$/);
  const ways = check.remedies!(world, { ...fault!, check: "swing" } as never, {} as never);
  expect(ways).toHaveLength(2);
  for (const { patches } of ways) expect(strikes(withPatches(world, patches))).toEqual([]);
});

test("what is thin turns beside its neighbour, and what looks nowhere hangs beside anything", () => {
  // Two rods of a hand's width and the half metre between them.
  expect(strikes(twoDishes(0, 0, "brisote-ronda-5-13"))).toEqual([]);
  const widthM = (id: string) => windAreaOf(twoDishes(1).antennaModels.get(id)!).widthM;
  // By hand: half of both, the stand-off of both, and the gap; the sector needs more than half a metre, the rods less.
  expect(widthM("brisote-ronda-5-13") + 0.3).toBeLessThan(0.5);
  expect(widthM("brisote-plato-5-25") + 0.3).toBeGreaterThan(0.5);
  expect(strikes(twoDishes(0, 0, "brisote-plato-5-25"))).toHaveLength(1);
  const nowhere = withPatches(twoDishes(0.1, 120), [setPatch("radios", "second", { azimuthDeg: null })]);
  expect(strikes(twoDishes(0.1, 120))).toEqual([]);
  expect(strikes(nowhere)).toHaveLength(1);
});
