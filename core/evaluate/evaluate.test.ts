// What is worked out after a change is what is worked out from nothing, whatever the change.
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  evaluate,
  evaluateAfter,
  evaluateGently,
  evaluateOwn,
  reviewed,
  reviewPlan,
  type Evaluation,
} from "#core/evaluate";
import type { Tape } from "#core/link";
import { putPatch, removePatch, setPatch, untuned, withPatches, type Patch } from "#core/plan";
import { plainTerrain, profileScratch, sampleProfile } from "#core/terrain";
import { anyChange, crowd, reading, town, valley, valleySurface, type Valley } from "#core/testing";

const made = valley(12, town);
const terrain = plainTerrain(valleySurface(12));

/** The figures of a tape, without the rows that they were worked out from. */
const figures = (tape: Tape) => ({ ...tape, question: null, limit: tape.limit.covered });
const plain = ({ heardNear, heardFar, answers, summaries, outcome, findings, counts, found }: Evaluation) => ({
  heard: [heardNear, heardFar].map((heard) => [...heard].map(([id, { noise }]) => [id, noise])),
  answers: [...answers].map(([id, { path, ...rest }]) => [
    id,
    rest,
    path && { ...path, aToB: figures(path.aToB), bToA: figures(path.bToA) },
  ]),
  summaries: [...summaries],
  outcome,
  findings,
  counts,
  found: [...found],
});

/** Holds any sequence of changes to a plan equal to working out from nothing where each leads. */
function sameAsFromNothing({ world, between }: Valley, numRuns: number): void {
  fc.assert(
    fc.property(fc.array(fc.nat(), { minLength: 1, maxLength: 6 }), (seeds) => {
      let now = evaluate(world, between);
      for (const seed of seeds) {
        const [patches] = fc.sample(anyChange(now.world, world), { numRuns: 1, seed });
        now = evaluateAfter(now, patches!, between);
        expect({ patches, ...plain(now) }).toEqual({ patches, ...plain(evaluate(now.world, between)) });
      }
    }),
    { numRuns },
  );
}

test("after any sequence of changes everything stands as if it had been worked out from nothing", () => {
  sameAsFromNothing(made, 30);
}, 300_000);

test("so it does where more are heard than anybody is held against, and where customers take turns", () => {
  sameAsFromNothing(valley(12, crowd), 4);
}, 300_000);

describe("what a change does not touch is taken over", () => {
  const first = evaluate(made.world, made.between);
  const after = (...patches: Patch[]) => evaluateAfter(first, patches, made.between);
  const answered = (...patches: Patch[]) => [...after(...patches).answered].sort();

  test("a note answers nothing anew, a demand its own link, an azimuth the sector's customers", () => {
    expect(answered(setPatch("sites", "west", { notes: "bees" }))).toEqual([]);
    expect(answered(setPatch("plans", "valley", { name: "Another" }))).toEqual([]);
    expect(answered(setPatch("subscribers", "house-1", { demandMbps: 3 }))).toEqual(["l1"]);
    const apart = evaluateAfter(first, [setPatch("carriers", "sector-2", { frequencyMHz: 5700 })], made.between);
    const turned = evaluateAfter(apart, [setPatch("radios", "sector-2", { azimuthDeg: 120 })], made.between);
    // The second bridge, a hundred megahertz off, still hears its skirts.
    expect([...turned.answered].sort()).toEqual(["l0", "l1", "l2", "second"]);
    expect(turned.answers.get("bridge")).toBe(first.answers.get("bridge"));
  });

  test("whoever hears a sector that moves onto its channel is answered anew", () => {
    expect(answered(setPatch("carriers", "sector-2", { frequencyMHz: 5700 }))).toEqual(
      expect.arrayContaining(["access", "l0", "l1", "l2"]),
    );
  });

  test("settings that answers are made from answer everything", () => {
    expect(answered(setPatch("plans", "valley", { kFactor: 1 }))).toHaveLength(made.world.links.size);
  });

  test("a finding that stands as it stood is the same object", () => {
    const { findings } = after(setPatch("subscribers", "house-1", { demandMbps: 3 }));
    const said = new Map(first.findings.map((finding) => [JSON.stringify(finding), finding]));
    const still = findings.filter((finding) => said.has(JSON.stringify(finding)));
    expect(still.length).toBeGreaterThanOrEqual(first.findings.length - 2);
    for (const finding of still) expect(finding).toBe(said.get(JSON.stringify(finding)));
  });

  test("another reading changes what is found, and no answer", () => {
    const bad = after(putPatch("measurements", reading(-60, -95)));
    expect([...bad.answered]).toEqual([]);
    expect(bad.findings.map(({ check }) => check)).toEqual(expect.arrayContaining(["failed"]));
  });
});

test("worked out in portions it is the same, and rests whenever that is due", async () => {
  let rests = 0;
  const scratch = profileScratch();
  const glance: typeof made.between = (from, to) => sampleProfile(terrain, from, to, undefined, scratch);
  const pace = { isDue: () => true, rest: () => Promise.resolve(void rests++) };
  const gently = await evaluateGently({ world: made.world }, glance, pace);
  expect(plain(gently)).toEqual(plain(evaluate(made.world, made.between)));
  expect(rests).toBeGreaterThanOrEqual(made.world.links.size);
  const patches = [setPatch("subscribers", "house-1", { demandMbps: 3 })];
  const world = withPatches(made.world, patches);
  const next = await evaluateGently({ previous: gently, patches, world }, glance, pace);
  expect(plain(next)).toEqual(plain(evaluate(world, made.between)));
  expect(reviewed(next, made.between).findings).toEqual(reviewPlan(world, made.between).findings);
});

test("a radio put without its link is silent until the link comes", () => {
  const bare: Valley = valley(12, (rows) => {
    town(rows);
    rows.links = rows.links.filter(({ id }) => id !== "second");
  });
  const silent = evaluate(bare.world, bare.between);
  const link = made.world.links.get("second")!;
  const loud = evaluateAfter(silent, [putPatch("links", link)], bare.between);
  expect(plain(loud)).toEqual(plain(evaluate(loud.world, bare.between)));
  const row = untuned(loud.world.radios.get("nw")!);
  const again = evaluateAfter(loud, [removePatch("links", "second"), removePatch("radios", "nw")], bare.between);
  expect(plain(again)).toEqual(plain(evaluate(again.world, bare.between)));
  const back = evaluateAfter(again, [putPatch("radios", row), putPatch("links", link)], bare.between);
  expect(
    plain(back)
      .summaries.map(([id]) => id)
      .sort(),
  ).toEqual(
    plain(loud)
      .summaries.map(([id]) => id)
      .sort(),
  );
});

describe("a first look", () => {
  const first = evaluate(made.world, made.between);
  const look = (...patches: Patch[]) => {
    const world = withPatches(made.world, patches);
    return { own: evaluateOwn({ previous: first, patches, world }, made.between), all: evaluate(world, made.between) };
  };

  test("answers the links that a change is about as they will be, apart from what they hear of it", () => {
    const { own, all } = look(setPatch("radios", "sector-2", { azimuthDeg: 100 }));
    expect([...own!.answered].sort()).toEqual(["l0", "l1", "l2"]);
    for (const id of ["l0", "l1", "l2"])
      expect(own!.answers.get(id)!.path!.aToB.chainLevelDbm).toBe(all.answers.get(id)!.path!.aToB.chainLevelDbm);
    expect(own!.answers.get("bridge")).toBe(first.answers.get("bridge"));
  });

  test("is not taken where nobody else hears of it, where links come or go, or where everything is another", () => {
    expect(look(setPatch("subscribers", "house-1", { demandMbps: 3 })).own).toBeNull();
    expect(look(removePatch("links", "second")).own).toBeNull();
    expect(look(setPatch("plans", "valley", { kFactor: 1 })).own).toBeNull();
  });
});

test("all that is worked out is plain data: it can be handed to another thread", () => {
  const { air, heardNear, heardFar, answers, summaries, outcome, findings } = evaluate(made.world, made.between);
  const all = { air, heardNear, heardFar, answers, summaries, outcome, findings };
  expect(structuredClone(all)).toEqual(all);
});
