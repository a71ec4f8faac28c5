// A window works the change in hand out as the server will when it is kept.
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  answersInHand,
  answersKept,
  evaluate,
  evaluateAfter,
  heardBefore,
  reachOf,
  type Answers,
} from "#core/evaluate";
import { putPatch, setPatch, withPatches, type Patch } from "#core/plan";
import { anyChange, crowd, reading, town, valley, type Valley } from "#core/testing";

const made = valley(12, town);
const kept = evaluate(made.world, made.between);

/** What a window has of the kept plan that has asked what the ends of some links hear. */
function askedOf(evaluation: Answers, { world }: Valley, linkIds: readonly string[]): Answers {
  const radioIds = linkIds.map((id) => world.links.get(id)!.aRadioId);
  return {
    heardNear: new Map(radioIds.map((id) => [id, evaluation.heardNear.get(id)!])),
    heardFar: new Map(linkIds.map((id) => [id, evaluation.heardFar.get(id)!])),
    answers: new Map(),
    summaries: evaluation.summaries,
    answered: new Set(),
  };
}

const everybody = { chosen: null, withHearers: true };
const reached = (patches: readonly Patch[], how: Parameters<typeof reachOf>[4] = everybody) =>
  reachOf(made.world, () => kept.air, withPatches(made.world, patches), patches, how);

/** Works some patches out as a window does that knows nothing of the plan's answers but their summaries. */
function inWindow(plan: Valley, evaluation: typeof kept, patches: readonly Patch[], between = plan.between) {
  const world = withPatches(plan.world, patches);
  const reach = reachOf(plan.world, () => evaluation.air, world, patches, everybody);
  const asked = heardBefore(plan.world, reach);
  const base = answersKept(plan.world, askedOf(evaluation, plan, asked), asked, between);
  return { world, reach, asked, base, inHand: answersInHand(world, base, reach, between) };
}

/** Holds any change in hand equal to what the whole plan says once it is kept, and what it does not reach to what it was. */
function sameAsKept(plan: Valley, numRuns: number): void {
  const evaluation = evaluate(plan.world, plan.between);
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const [patches] = fc.sample(anyChange(plan.world, plan.world), { numRuns: 1, seed });
      const { world, reach, inHand } = inWindow(plan, evaluation, patches!);
      const whole = evaluateAfter(evaluation, patches!, plan.between);
      for (const id of world.links.keys())
        if (reach.linkIds.has(id)) {
          expect({ patches, id, answer: inHand.answers.get(id) }).toEqual({
            patches,
            id,
            answer: whole.answers.get(id),
          });
          expect(inHand.summaries.get(id)).toEqual(whole.summaries.get(id));
        } else expect(whole.answers.get(id)).toBe(evaluation.answers.get(id));
    }),
    { numRuns },
  );
}

test("the answers in hand are those that the plan has once the change is kept", () => {
  sameAsKept(made, 80);
}, 300_000);

test("so they are where more are heard than anybody is held against", () => {
  sameAsKept(valley(12, crowd), 12);
}, 300_000);

describe("how far a change in hand reaches", () => {
  const turned = [setPatch("radios", "sector-2", { azimuthDeg: 100 })];

  test("its own links and the chosen one; who hears it only where that is asked for", () => {
    const own = { chosen: made.world.links.get("bridge")!, withHearers: false };
    expect([...reached(turned, own).linkIds].sort()).toEqual(["bridge", "l0", "l1", "l2"]);
    expect([...reached(turned).linkIds].sort()).toEqual(["access", "l0", "l1", "l2"]);
    expect([...reached([], own).linkIds]).toEqual(["bridge"]);
  });

  test("an outline changes no answer before it is kept; settings change all of them", () => {
    const area = { id: "wood", planId: "valley", name: "Wood", kind: "forest", heightM: 9, ring: [] };
    expect(reached([putPatch("areas", area as never)]).linkIds.size).toBe(0);
    expect(reached([setPatch("plans", "valley", { kFactor: 1 })]).linkIds.size).toBe(made.world.links.size);
  });

  test("what its own ends hear anew need not be known before", () => {
    const reach = reached(turned);
    expect(heardBefore(made.world, reach).sort()).toEqual(["access", "l0", "l1", "l2"]);
    expect(heardBefore(made.world, reached([setPatch("plans", "valley", { kFactor: 1 })]))).toEqual([]);
    expect(heardBefore(made.world, reached([putPatch("measurements", reading(-60, -75))]))).toEqual(["bridge"]);
  });
});

test("where it is not known what a link hears, or what lies under it, nothing is said of it", () => {
  const patches = [setPatch("radios", "r1", { txPowerDbm: 9 })];
  const world = withPatches(made.world, patches);
  const reach = reached(patches);
  const unheard = askedOf(kept, made, []);
  expect(answersInHand(world, unheard, reach, made.between).answers.get("l1")).toBeUndefined();
  const { inHand } = inWindow(made, kept, patches, () => undefined as never);
  expect(inHand.answers.size).toBe(0);
  expect(inHand.summaries.get("l1")).toBe(kept.summaries.get("l1"));
});

test("what is answered of the kept plan is answered once", () => {
  const { base, asked } = inWindow(made, kept, [setPatch("radios", "sector-2", { azimuthDeg: 100 })]);
  const again = answersKept(made.world, base, asked, () => {
    throw new Error("asked for a profile again");
  });
  for (const id of asked) expect(again.answers.get(id)).toBe(base.answers.get(id));
});
