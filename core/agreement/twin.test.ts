import { expect, test } from "@jest/globals";
import { inverseGeodesic } from "#core/geodesy";
import { crewSheet } from "#core/install";
import { evaluate } from "#core/evaluate";
import { linkEnds } from "#core/plan";
import { promisedBy } from "#core/proof";
import { lopsided, valley, valleyAndTwin } from "#core/testing";
import { watchedOf } from "#core/watch";

const DAY = new Date("2026-07-01");

test("north of the equator a mirrored plan is worth what it is worth south of it: no sign hangs on the hemisphere", () => {
  for (const ridgeM of [0, 12, 60]) {
    const { south, north } = valleyAndTwin(ridgeM, lopsided);
    const [one, other] = [south, north].map(({ world, between }) => evaluate(world, between)) as [
      ReturnType<typeof evaluate>,
      ReturnType<typeof evaluate>,
    ];
    for (const [id, answer] of one.answers) {
      const twin = other.answers.get(id)!;
      expect([id, twin.state, twin.path === null]).toEqual([id, answer.state, answer.path === null]);
      if (!answer.path || !twin.path) continue;
      for (const way of ["aToB", "bToA"] as const) {
        const [tape, mirror] = [answer.path[way], twin.path[way]];
        // Samples of the ground fall on other cells by a hair.
        expect(mirror.chainLevelDbm).toBeCloseTo(tape.chainLevelDbm, 2);
        expect(mirror.noiseDbm).toBeCloseTo(tape.noiseDbm, 2);
        expect(mirror.fromOffDb).toBeCloseTo(tape.fromOffDb, 3);
        expect(mirror.question.fromPointing.azimuthOffDeg).toBeCloseTo(-tape.question.fromPointing.azimuthOffDeg, 3);
        expect(mirror.question.fromPointing.elevationOffDeg).toBeCloseTo(tape.question.fromPointing.elevationOffDeg, 3);
        expect(mirror.rateMbps).toBeCloseTo(tape.rateMbps, 6);
      }
    }
    expect(other.outcome.customersServed).toBe(one.outcome.customersServed);
    expect(other.findings.map(({ check }) => check).sort()).toEqual(one.findings.map(({ check }) => check).sort());
  }
});

test("where no two ends are alike, every level stands at its own end in list, crew sheet, promise and monitoring", () => {
  const { world, between } = valley(0, lopsided);
  const { answers, summaries } = evaluate(world, between);
  let different = 0;
  for (const [id, answer] of answers) {
    const { path } = answer;
    if (!path) continue;
    const link = world.links.get(id)!;
    const { a, b } = linkEnds(world, link);
    const { azimuthDeg, backAzimuthDeg } = inverseGeodesic(a.place, b.place);
    const crew = crewSheet(world.plan, a, b, path, { azimuthDeg, backAzimuthDeg }, DAY);
    const [atA, atB] = [path.bToA.totalLevelDbm, path.aToB.totalLevelDbm];
    if (Math.abs(atA - atB) > 0.5) different++;
    expect([crew.a.expectedTotalDbm, crew.b.expectedTotalDbm]).toEqual([atA, atB]);
    const promised = promisedBy(world.plan, path);
    expect(promised.expectedADbm).toBeCloseTo(atA, 1);
    expect(promised.expectedBDbm).toBeCloseTo(atB, 1);
    const chains = { a: path.bToA.chainLevelDbm, b: path.aToB.chainLevelDbm };
    expect(watchedOf(world, link, answer)!.levelDbm).toEqual(chains);
    expect(summaries.get(id)).toMatchObject({ levelADbm: chains.a, levelBDbm: chains.b });
  }
  // Otherwise ends that change places would not be noticed.
  expect(different).toBeGreaterThan(answers.size / 2);
});
