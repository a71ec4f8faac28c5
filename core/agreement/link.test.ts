import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { inverseGeodesic } from "#core/geodesy";
import { crewSheet } from "#core/install";
import { answerOf, isLinkServed, summarize } from "#core/outcome";
import { linkEnds, withPatches, setPatch } from "#core/plan";
import { paperCriteria, promisedBy, standingOf } from "#core/proof";
import { sendingChains, totalOfSetting } from "#core/radio";
import { powerWithinCapDbm } from "#core/kit";
import { overCap, ruleUse } from "#core/regulation";
import { configSheet, sheetContext } from "#core/staging";
import { radioIn, town, valley } from "#core/testing";
import { watchedOf } from "#core/watch";
import { billOf } from "#core/bill";
import { outcomeOf } from "#core/outcome";

/** Towns whose radios send with any power, on any polarization and width, of models that are told either way. */
const anyTown = fc.record({
  powers: fc.array(fc.integer({ min: 0, max: 26 }), { minLength: 6, maxLength: 6 }),
  polarization: fc.constantFrom("H", "V", "HV", "X45" as const),
  widthMHz: fc.constantFrom(20, 40),
  isPerChain: fc.boolean(),
  demandMbps: fc.integer({ min: 1, max: 200 }),
  floorDbm: fc.integer({ min: -80, max: -40 }),
});
type Asked = typeof anyTown extends fc.Arbitrary<infer One> ? One : never;
const townOf = ({ powers, polarization, widthMHz, isPerChain, demandMbps, floorDbm }: Asked) =>
  valley(0, (rows) => {
    town(rows);
    rows.radios.forEach((radio, i) => Object.assign(radio, { txPowerDbm: powers[i % powers.length], polarization }));
    for (const id of ["west-east", "east-west"]) radioIn(rows, id).widthMHz = widthMHz;
    for (const one of rows.equipment)
      if (one.kind === "radio") one.body = { ...one.body, powerSetting: isPerChain ? "perChain" : "total" };
    for (const customer of rows.subscribers) customer.demandMbps = demandMbps;
    rows.plan.proofFloorDbm = floorDbm;
  });

/** Every answered link of a town with its ends and its answer. */
const answersOf = ({ world, between }: ReturnType<typeof valley>) =>
  [...world.links.values()].flatMap((link) => {
    const answer = answerOf(world, link, between);
    return answer.path ? [{ link, answer, path: answer.path, ...linkEnds(world, link) }] : [];
  });
const DAY = new Date("2026-07-01");

test("a link's levels and rates are one in tape, list, crew sheet, reading's promise and watch", () => {
  fc.assert(
    fc.property(anyTown, (asked) => {
      const plan = townOf(asked);
      const { world } = plan;
      for (const { link, answer, path, a, b } of answersOf(plan)) {
        const { aToB, bToA } = path;
        const listed = summarize(world, link, answer);
        expect([listed.downMbps, listed.upMbps]).toEqual([aToB.rateMbps, bToA.rateMbps]);
        expect(listed.levelBDbm).toBeCloseTo(aToB.chainLevelDbm, 9);
        expect(listed.levelADbm).toBeCloseTo(bToA.chainLevelDbm, 9);
        const { azimuthDeg, backAzimuthDeg } = inverseGeodesic(a.place, b.place);
        const crew = crewSheet(world.plan, a, b, path, { azimuthDeg, backAzimuthDeg }, DAY);
        expect(crew.a.expectedTotalDbm).toBeCloseTo(bToA.totalLevelDbm, 9);
        expect(crew.b.expectedTotalDbm).toBeCloseTo(aToB.totalLevelDbm, 9);
        expect(crew.b.expectedChainDbm).toBeCloseTo(aToB.chainLevelDbm, 9);
        // A reading keeps its promise in tenths.
        const promised = promisedBy(world.plan, path);
        expect(Math.abs(promised.expectedADbm! - bToA.totalLevelDbm)).toBeLessThanOrEqual(0.05 + 1e-9);
        expect(Math.abs(promised.expectedBDbm! - aToB.totalLevelDbm)).toBeLessThanOrEqual(0.05 + 1e-9);
        const watched = watchedOf(world, link, answer)!;
        expect(watched.levelDbm).toEqual({ a: bToA.chainLevelDbm, b: aToB.chainLevelDbm });
        expect(watched.rateMbps).toEqual({ a: bToA.rateMbps, b: aToB.rateMbps });
      }
    }),
    { numRuns: 25 },
  );
});

test("the power to type into a device is the tape's, within its step and never above it, in the staging sheet as on the roof", () => {
  fc.assert(
    fc.property(anyTown, (asked) => {
      const plan = townOf(asked);
      const { world } = plan;
      const context = sheetContext(world);
      for (const { path, a, b } of answersOf(plan)) {
        const { azimuthDeg, backAzimuthDeg } = inverseGeodesic(a.place, b.place);
        const crew = crewSheet(world.plan, a, b, path, { azimuthDeg, backAzimuthDeg }, DAY);
        for (const [end, sheet] of [
          [a, crew.a],
          [b, crew.b],
        ] as const) {
          const { settings, powerOf } = configSheet(world, end.radio.id, context);
          expect(sheet.powerToSet).toEqual({ dbm: settings.txPowerDbm, of: powerOf });
          const chains = sendingChains(end.model, end.radio.polarization);
          const total = totalOfSetting(chains, sheet.powerToSet);
          const planned = end.radio.txPowerDbm;
          expect(total).toBeLessThanOrEqual(planned + 0.051);
          expect(total).toBeGreaterThan(planned - end.model.powerStepDb);
        }
      }
    }),
    { numRuns: 25 },
  );
});

test("a radio that is turned to what its caps leave stays under them on its tape, under every rule set alike", () => {
  fc.assert(
    fc.property(anyTown, (asked) => {
      const plan = townOf(asked);
      for (const { link, a, b } of answersOf(plan)) {
        const caps = ([a, b] as const).map((end) =>
          setPatch("radios", end.radio.id, {
            txPowerDbm: powerWithinCapDbm(plan.world, end, ruleUse(link.kind)),
          }),
        );
        const then = withPatches(plan.world, caps);
        const { path } = answerOf(then, then.links.get(link.id)!, plan.between);
        for (const [tape, end] of [
          [path!.aToB, a],
          [path!.bToA, b],
        ] as const) {
          const { txPowerDbm } = then.radios.get(end.radio.id)!;
          if (tape.closed !== null || txPowerDbm === end.model.powerMinDbm) continue;
          expect(overCap({ eirpDbm: tape.eirpDbm, txPowerDbm }, tape.limit)).toBeNull();
        }
      }
    }),
    { numRuns: 15 },
  );
});

test("a link works on paper exactly where its tape passes each criterion that its sheet lists; works on paper, it is served", () => {
  fc.assert(
    fc.property(anyTown, (asked) => {
      const plan = townOf(asked);
      const { world } = plan;
      for (const { link, answer, path, a, b } of answersOf(plan)) {
        const standing = standingOf(world, link, answer, null);
        const criteria = paperCriteria(world.plan, { a, b }, answer);
        expect(standing).toMatchObject({ state: "planned", criteria });
        expect(standing.worksOnPaper).toBe(criteria.every(({ passed }) => passed));
        const weakest = Math.min(path.aToB.totalLevelDbm, path.bToA.totalLevelDbm);
        expect(criteria.find(({ key }) => key === "floor")!.passed).toBe(weakest >= world.plan.proofFloorDbm);
        if (standing.worksOnPaper) expect(isLinkServed(world, link, answer)).toBe(true);
      }
    }),
    { numRuns: 25 },
  );
});

test("the bar's cost is the bill's, line by line", () => {
  fc.assert(
    fc.property(anyTown, (asked) => {
      const plan = townOf(asked);
      const summaries = new Map(
        answersOf(plan).map(({ link, answer }) => [link.id, summarize(plan.world, link, answer)]),
      );
      const bill = billOf(plan.world);
      expect(outcomeOf(plan.world, summaries).costEur).toBe(bill.priceEur);
      expect(bill.lines.reduce((sum, { priceEur }) => sum + priceEur, 0)).toBeCloseTo(bill.priceEur, 6);
    }),
    { numRuns: 5 },
  );
});
