// What holds for links of any kind, tried by the hundred: left out when single changes of the code are tried (npm run mutants).
import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { answerOf } from "#core/outcome";
import { answerLink, clearanceOf, obstructionHeightsM, weakestMarginDb } from "#core/link";
import { radioPatches, setPatch, linkEnds, withPatches } from "#core/plan";
import { radioIn, valley } from "#core/testing";

test("for 2 000 links of any height, distance, band and kit no answer holds a figure that is not finite", () => {
  const height = fc.oneof(fc.constant(0), fc.double({ min: 0, max: 40, noNaN: true }));
  const kit = fc.constantFrom(
    ["brisote-tramo-5", "brisote-plato-5-30", 5800, 20],
    ["kestrane-salto-80", "kestrane-plato-80-44", 73_500, 500],
    ["halvorn-duna-9", "halvorn-losa-9-11", 915, 10],
  );
  const plans = { 0: valley(0), 13: valley(13), 60: valley(60) };
  fc.assert(
    fc.property(
      height,
      height,
      fc.double({ min: 0.00002, max: 0.12, noNaN: true }),
      fc.constantFrom(...([0, 13, 60] as const)),
      kit,
      (heightA, heightB, east, ridgeM, [radioModelId, antennaModelId, frequencyMHz, widthMHz]) => {
        const { world: kept, between } = plans[ridgeM];
        const put = (id: string, heightM: number) =>
          radioPatches(kept, {
            ...kept.radios.get(id)!,
            radioModelId,
            antennaModelId,
            frequencyMHz,
            widthMHz,
            heightM,
          });
        const world = withPatches(kept, [
          setPatch("sites", "east", { lonDeg: 20 + east }),
          ...put("west-east", heightA),
          ...put("east-west", heightB),
        ]);
        const answer = answerOf(world, world.links.get("bridge")!, between);
        if (!answer.path) return expect(answer.problem!.kind).toBe("samePlace");
        const { clearance, aToB, bToA } = answer.path;
        for (const part of [clearance, ...clearance.checks, aToB, bToA, aToB.question.path])
          for (const value of Object.values(part))
            if (typeof value === "number") expect(Number.isFinite(value)).toBe(true);
        expect(Number.isFinite(weakestMarginDb(answer)!)).toBe(true);
      },
    ),
    { numRuns: 1000, seed: 11 },
  );
});

test("raising an antenna never worsens the clearance of the same obstruction, and the least height is just enough", () => {
  const made = valley(45);
  const { a, b } = linkEnds(made.world, made.world.links.get("bridge")!);
  const profile = made.between(a.place, b.place);
  const heightsM = obstructionHeightsM(profile, false);
  const at = (heightA: number, heightB: number) =>
    clearanceOf(
      {
        profile,
        heightsM,
        aAmslM: profile.groundAmslM[0]! + heightA,
        bAmslM: profile.groundAmslM.at(-1)! + heightB,
        frequencyGHz: 5.8,
      },
      [{ kFactor: 4 / 3, wantedShare: 0.6 }],
    );
  const height = fc.double({ min: 2, max: 80, noNaN: true });
  fc.assert(
    fc.property(height, height, fc.double({ min: 0.1, max: 20, noNaN: true }), (heightA, heightB, more) => {
      const here = at(heightA, heightB);
      expect(at(heightA + more, heightB).worstShare).toBeGreaterThanOrEqual(here.worstShare - 1e-9);
      if (here.leastHeightAM > 0) {
        expect(at(here.leastHeightAM + 0.01, heightB).state).toBe("clear");
        expect(at(here.leastHeightAM - 0.01, heightB).state).not.toBe("clear");
      }
    }),
  );
});

test("answers are reciprocal: the same path from its other end has the same clearance and loss", () => {
  const height = fc.double({ min: 5, max: 40, noNaN: true });
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 60 }), height, height, (ridgeM, heightA, heightB) => {
      const made = valley(ridgeM, (rows) => {
        radioIn(rows, "west-east").heightM = heightA;
        radioIn(rows, "east-west").heightM = heightB;
      });
      const { a, b } = linkEnds(made.world, made.world.links.get("bridge")!);
      const shared = { plan: made.world.plan, kind: "bridge", foliageDepthM: null } as const;
      const there = answerLink({ ...shared, a, b, profile: made.between(a.place, b.place) });
      const back = answerLink({ ...shared, a: b, b: a, profile: made.between(b.place, a.place) });
      expect(back.state).toBe(there.state);
      expect(back.path!.clearance.worstShare).toBeCloseTo(there.path!.clearance.worstShare, 2);
      expect(back.path!.diffractionDb).toBeCloseTo(there.path!.diffractionDb, 2);
      expect(back.path!.bToA.totalLevelDbm).toBeCloseTo(there.path!.aToB.totalLevelDbm, 2);
    }),
    { numRuns: 25 },
  );
});
