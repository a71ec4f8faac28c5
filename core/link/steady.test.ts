import { expect, test } from "@jest/globals";
import { fadingPathOf, marginForAvailabilityDb, steadyMbps } from "#core/link";
import { answerOf } from "#core/outcome";
import { linkEnds, setPatch, withPatches } from "#core/plan";
import { valley } from "#core/testing";

const made = valley(0, ({ radios }) => {
  for (const one of radios) if (one.role === "bridge") one.txPowerDbm = 2;
});
const steadyAt = (availabilityPercent: number, patches: Parameters<typeof withPatches>[1] = []) => {
  const world = withPatches(made.world, [setPatch("plans", "valley", { availabilityPercent }), ...patches]);
  const link = world.links.get("bridge")!;
  const ends = linkEnds(world, link);
  const answer = answerOf(world, link, made.between);
  return { world, ends, answer, steady: steadyMbps(world.plan, ends, answer) };
};

test("a bridge keeps the rates of its tapes with the level lowered by the fading of the wanted availability", () => {
  const { world, ends, answer, steady } = steadyAt(99.99);
  const fading = fadingPathOf(world.plan, ends, answer.path!, answer.distanceM);
  const { marginDb } = marginForAvailabilityDb(fading, 99.99)!;
  expect(marginDb).toBeGreaterThan(1);
  // The same by hand: both transmitters turned down by as much.
  const faded = steadyAt(
    99.99,
    [ends.a, ends.b].map(({ radio }) => setPatch("radios", radio.id, { txPowerDbm: radio.txPowerDbm - marginDb })),
  ).answer.path!;
  expect(steady!.down).toBeLessThan(answer.path!.aToB.rateMbps);
  // Back-off is less where the power is turned down: never slower than what is kept.
  expect(steady!.down).toBeLessThanOrEqual(faded.aToB.rateMbps);
  expect(steady!.up).toBeLessThanOrEqual(faded.bToA.rateMbps);
});

test("more availability never keeps more, and what the method cannot promise is not told", () => {
  const rates = [99, 99.9, 99.99, 99.995].map((percent) => steadyAt(percent).steady!);
  for (let i = 1; i < rates.length; i++) {
    expect(rates[i]!.down).toBeLessThanOrEqual(rates[i - 1]!.down);
    expect(rates[i]!.up).toBeLessThanOrEqual(rates[i - 1]!.up);
  }
  expect(steadyAt(99.999).steady).toBeNull();
  const { world, ends, answer } = steadyAt(99.9);
  expect(steadyMbps(world.plan, ends, { ...answer, path: null })).toBeNull();
});
