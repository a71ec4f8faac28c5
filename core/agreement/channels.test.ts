import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { channelEars, channelGroups, channelProblem, earsNow, NO_LIMITS } from "#core/channels";
import { noiseSteps, rateUnder } from "#core/link";
import { answerOf, backboneOf, peopleBehind } from "#core/outcome";
import { channelsCost } from "#core/spectrum";
import { radioIn, town, valley } from "#core/testing";

/** Two sectors that hear each other, and nobody else on the air. */
const anyPair = fc.record({
  apartMHz: fc.constantFrom(0, 5, 10, 20, 60),
  sectorDbm: fc.tuple(fc.integer({ min: 5, max: 24 }), fc.integer({ min: 5, max: 24 })),
  azimuthDeg: fc.integer({ min: 0, max: 359 }),
});
const pairOf = ({ apartMHz, sectorDbm, azimuthDeg }: typeof anyPair extends fc.Arbitrary<infer One> ? One : never) =>
  valley(0, (rows) => {
    town(rows);
    rows.links = rows.links.filter(({ kind }) => kind === "access");
    const [sector, other] = [radioIn(rows, "sector"), radioIn(rows, "sector-2")];
    Object.assign(sector, { txPowerDbm: sectorDbm[0], azimuthDeg });
    Object.assign(other, { txPowerDbm: sectorDbm[1] });
    for (const one of rows.radios) {
      Object.assign(one, { interferenceDb: 0 });
      if (one.carrierId === "sector-2") one.frequencyMHz = sector.frequencyMHz + apartMHz;
    }
  });

test("what each receiver hears on the channels of now is one figure for the channel planner and for its tape", () => {
  let disturbed = 0;
  fc.assert(
    fc.property(anyPair, (asked) => {
      const { world, between } = pairOf(asked);
      for (const ear of earsNow(world, between)) {
        const { path } = answerOf(world, world.links.get(ear.linkId)!, between);
        const tape = ear.direction === "down" ? path!.aToB : path!.bToA;
        const milliwatts = ear.heard.reduce((sum, { dbm }) => sum + 10 ** (dbm / 10), 10 ** (ear.quietDbm / 10));
        // The planner leaves out the faint ones that a tape adds up unseen.
        expect(Math.abs(10 * Math.log10(milliwatts) - tape.noiseDbm)).toBeLessThan(0.1);
        expect(ear.thermalDbm).toBeCloseTo(tape.noiseDbm - tape.noise.riseDb, 9);
        if (tape.noise.riseDb > 1) disturbed++;
      }
    }),
    { numRuns: 25 },
  );
  expect(disturbed).toBeGreaterThan(20);
});

test("what the channels of now cost two sectors is what their tapes lose by each other: the rates lost, and a little for each decibel", () => {
  let costly = 0;
  fc.assert(
    fc.property(anyPair, (asked) => {
      const { world, between } = pairOf(asked);
      const groups = channelGroups(world);
      const answers = new Map([...world.links.values()].map((link) => [link.id, answerOf(world, link, between)]));
      const problem = channelProblem(
        world,
        groups.map((id) => [id]),
        channelEars(world, groups, answers, between),
        { workPeople: 0, fixedIds: groups, seconds: 1, limits: { ...NO_LIMITS, guardMHz: -1000 } },
        true,
      );
      const now = problem.members.map(([id], i) =>
        problem.channelsMHz[i]!.indexOf(world.radios.get(id!)!.frequencyMHz),
      );
      const ownOnly = problem.question.ownCosts.reduce((sum, costs, i) => sum + costs[now[i]!]!, 0);
      /** What all tapes lose by each other, with so much more noise than they have. */
      const lostWith = (moreDb: number) => {
        let lost = 0;
        for (const link of world.links.values()) {
          const { path } = answers.get(link.id)!;
          const people = peopleBehind(world, link, () => backboneOf(world));
          for (const tape of [path!.aToB, path!.bToA]) {
            const { riseDb } = tape.noise;
            const quiet = rateUnder(noiseSteps(tape), tape.noiseDbm - riseDb);
            const rate = rateUnder(noiseSteps(tape), Math.max(tape.noiseDbm - riseDb, tape.noiseDbm + moreDb));
            expect(rateUnder(noiseSteps(tape), tape.noiseDbm)).toBeCloseTo(tape.rateMbps, 6);
            const share = quiet === 0 ? 0 : 1 - rate / quiet;
            lost += Math.min(0.5 * people, 0.5 * people * share + 0.5 * people * 0.002 * riseDb);
          }
        }
        return lost;
      };
      // A tape sums faint transmitters in free sight and leaves out those 15 dB under thermal noise: up to 0.15 dB either way.
      const cost = channelsCost(problem.question, now) - ownOnly;
      expect(cost).toBeGreaterThan(lostWith(-0.15) - 0.01);
      expect(cost).toBeLessThan(lostWith(0.15) + 0.01);
      if (cost > 1) costly++;
    }),
    { numRuns: 25 },
  );
  expect(costly).toBeGreaterThan(4);
});
