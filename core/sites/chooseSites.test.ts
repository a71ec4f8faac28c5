import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { chooseSites, greedySites, isJoined, type SitesQuestion } from "#core/sites";

type Problem = Omit<SitesQuestion, "seconds"> & { optimum: number };
const { sites: problems } = JSON.parse(readFileSync(new URL("../reference/optima.json", import.meta.url), "utf8")) as {
  sites: Problem[];
};

const reachedShare = ({ reaches, people }: SitesQuestion, chosen: readonly number[]) => {
  const reached = new Set(chosen.flatMap((i) => reaches[i]!));
  const sum = (some: Iterable<number>) => [...some].reduce((all, one) => all + one, 0);
  return sum([...reached].map((customer) => people[customer]!)) / Math.max(1e-9, sum(people));
};

test.each(problems.map((problem, i) => [i, problem] as const))(
  "problem %i has its proven optimum",
  async (_, problem) => {
    const question = { ...problem, seconds: 20 };
    const { chosen, costEur, lowerBoundEur } = await chooseSites(question);
    expect(costEur).toBe(problem.optimum);
    expect(lowerBoundEur).toBeCloseTo(problem.optimum, 3);
    expect(reachedShare(question, chosen)).toBeGreaterThanOrEqual(problem.share - 1e-9);
    expect(isJoined(chosen, problem.hops, problem.feeds)).toBe(true);
  },
);

/** Small problems, and their optimum by trying every set. */
const small = fc
  .record({
    costsEur: fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 6, maxLength: 6 }),
    reaches: fc.array(fc.uniqueArray(fc.integer({ min: 0, max: 7 }), { maxLength: 5 }), { minLength: 6, maxLength: 6 }),
    people: fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 8, maxLength: 8 }),
    hops: fc.array(fc.tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 0, max: 5 })), { maxLength: 9 }),
    feeds: fc.uniqueArray(fc.integer({ min: 0, max: 5 }), { minLength: 1, maxLength: 2 }),
    share: fc.constantFrom(0.3, 0.6, 0.9),
  })
  .map((one): SitesQuestion => ({ ...one, seconds: 10 }));

function byTrying(question: SitesQuestion): number | null {
  let best: number | null = null;
  for (let set = 0; set < 1 << question.costsEur.length; set++) {
    const chosen = question.costsEur.flatMap((_, i) => ((set >> i) & 1 ? [i] : []));
    if (reachedShare(question, chosen) < question.share - 1e-9) continue;
    if (!isJoined(chosen, question.hops, question.feeds)) continue;
    const costEur = chosen.reduce((sum, i) => sum + question.costsEur[i]!, 0);
    best = best === null ? costEur : Math.min(best, costEur);
  }
  return best;
}

test("whatever the problem, the answer is the best of all sets, and the greedy one is no better and holds", async () => {
  await fc.assert(
    fc.asyncProperty(small, async (question) => {
      const best = byTrying(question);
      const { chosen, costEur, lowerBoundEur } = await chooseSites(question);
      const quick = greedySites(question);
      if (best === null) {
        expect(chosen).toEqual([]);
        expect(quick).toBeNull();
        return;
      }
      expect(costEur).toBe(best);
      expect(lowerBoundEur).toBeLessThanOrEqual(best + 1e-6);
      expect(isJoined(chosen, question.hops, question.feeds)).toBe(true);
      expect(quick).not.toBeNull();
      expect(reachedShare(question, quick!)).toBeGreaterThanOrEqual(question.share - 1e-9);
      expect(isJoined(quick!, question.hops, question.feeds)).toBe(true);
    }),
    { numRuns: 25 },
  );
}, 120_000);

describe("what is no question", () => {
  const [first] = problems;
  const asked = (change: Partial<SitesQuestion>) => chooseSites({ ...first!, seconds: 1, ...change });
  test("is refused by name", async () => {
    await expect(asked({ share: 1.2 })).rejects.toThrow("share is 1.2; it must be from 0 to 1");
    await expect(asked({ feeds: [99] })).rejects.toThrow("99 is no candidate; there are 14");
    await expect(asked({ reaches: [[0]] })).rejects.toThrow("reaches names 1 candidates; costsEur names 14");
    await expect(asked({ people: [1] })).rejects.toThrow("is no customer; there are 1");
  });
});
