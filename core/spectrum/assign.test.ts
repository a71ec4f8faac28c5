import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { assignChannels, type ChannelsQuestion } from "#core/spectrum";

type Problem = Omit<ChannelsQuestion, "seconds"> & { optimum: number };
const { channels: problems } = JSON.parse(
  readFileSync(new URL("../reference/optima.json", import.meta.url), "utf8"),
) as {
  channels: Problem[];
};

const costOf = ({ ownCosts, couplings }: ChannelsQuestion, choice: readonly number[]) =>
  ownCosts.reduce((sum, costs, r) => sum + costs[choice[r]!]!, 0) +
  couplings.reduce((sum, { a, b, costs }) => sum + costs[choice[a]!]![choice[b]!]!, 0);

/** The least cost by trying every choice. */
function tried(question: ChannelsQuestion): number {
  const { ownCosts, fixed = [] } = question;
  let best = Infinity;
  const choice: number[] = [];
  const next = (r: number): void => {
    if (r === ownCosts.length) return void (best = Math.min(best, costOf(question, choice)));
    ownCosts[r]!.forEach((_, c) => {
      if (fixed[r] != null && fixed[r] !== c) return;
      choice[r] = c;
      next(r + 1);
    });
  };
  next(0);
  return best;
}

test.each(problems.map((problem, i) => [i, problem] as const))(
  "problem %i has its proven optimum",
  async (_, problem) => {
    const question = { ...problem, seconds: 10 };
    const { choice, cost, lowerBound } = await assignChannels(question);
    expect(cost).toBeLessThanOrEqual(problem.optimum * 1.02 + 1e-9);
    expect(cost).toBeCloseTo(costOf(question, choice), 9);
    expect(lowerBound).toBeLessThanOrEqual(problem.optimum + 1e-6);
    expect(lowerBound).toBeGreaterThan(problem.optimum * 0.98 - 1e-6);
  },
);

const cost = fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 30 }));
const matrix = (rows: number, columns: number) =>
  fc.array(fc.array(cost, { minLength: columns, maxLength: columns }), { minLength: rows, maxLength: rows });
const small = fc
  .record({
    ownCosts: matrix(5, 3),
    pairs: fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })), { maxLength: 8 }),
    costs: fc.array(matrix(3, 3), { minLength: 8, maxLength: 8 }),
    fixed: fc.array(fc.constantFrom(null, null, 0, 2), { minLength: 5, maxLength: 5 }),
  })
  .map(({ ownCosts, pairs, costs, fixed }): ChannelsQuestion => ({
    ownCosts,
    couplings: pairs.flatMap(([a, b], i) => (a === b ? [] : [{ a, b, costs: costs[i]! }])),
    fixed,
    seconds: 2,
  }));

test("small problems have the optimum that trying every choice finds, and it is proven", async () => {
  await fc.assert(
    fc.asyncProperty(small, async (question) => {
      const answer = await assignChannels({ ...question, seconds: 1 });
      const optimum = tried(question);
      expect(answer.cost).toBeCloseTo(optimum, 9);
      expect(answer.lowerBound).toBeCloseTo(optimum, 6);
      question.fixed!.forEach((channel, r) => channel !== null && expect(answer.choice[r]).toBe(channel));
    }),
    { numRuns: 15 },
  );
});

test.each([0, 0.01, 1])("however short the search, %f s, the bound never exceeds the optimum", async (seconds) => {
  await fc.assert(
    fc.asyncProperty(small, async (question) => {
      const answer = await assignChannels({ ...question, seconds });
      expect(answer.lowerBound).toBeLessThanOrEqual(tried(question) + 1e-6);
      expect(answer.lowerBound).toBeLessThanOrEqual(answer.cost);
    }),
    { numRuns: 8 },
  );
});

test("a pair is paid for on the very channels where both stand, not on a cheaper one beside", async () => {
  // Whatever they choose costs 10 but for one pair of channels that neither can stand on together with its own.
  const costs = [
    [10, 10],
    [10, 1],
  ];
  const question = {
    ownCosts: [
      [0, 20],
      [0, 20],
    ],
    couplings: [{ a: 0, b: 1, costs }],
    seconds: 1,
  };
  expect(await assignChannels(question)).toMatchObject({ choice: [0, 0], cost: 10, lowerBound: 10 });
});

describe("sixty radios on twelve channels", () => {
  /** A ring of towns in which radios disturb the eight nearest, by how near their channels are. */
  const ring = (channels: number): ChannelsQuestion => {
    const count = 60;
    const ownCosts = Array.from({ length: count }, (_, r) =>
      Array.from({ length: channels }, (__, c) => ((r * 7 + c * 5) % 11) / 10),
    );
    const couplings = Array.from({ length: count }, (_, a) =>
      [1, 2, 3, 4].map((step) => ({
        a,
        b: (a + step) % count,
        costs: Array.from({ length: channels }, (__, ca) =>
          Array.from({ length: channels }, (___, cb) => Math.max(0, 20 / step - 15 * Math.abs(ca - cb))),
        ),
      })),
    ).flat();
    return { ownCosts, couplings, seconds: 10 };
  };
  test("reach an optimum that is proven within ten seconds", async () => {
    const question = ring(12);
    const told: number[] = [];
    const { cost: found, lowerBound, choice } = await assignChannels(question, (now) => told.push(now.cost));
    expect(found).toBeCloseTo(costOf(question, choice), 9);
    expect(found - lowerBound).toBeLessThanOrEqual(0.02 * found + 1e-6);
    expect(told).toEqual([...told].sort((x, y) => y - x));
  });
});

test("what is no question is named", async () => {
  const own = [
    [1, 2],
    [3, 4],
  ];
  const pair = {
    a: 0,
    b: 1,
    costs: [
      [1, 0],
      [0, 1],
    ],
  };
  const ask = (rest: Partial<ChannelsQuestion>) =>
    assignChannels({ ownCosts: own, couplings: [pair], seconds: 1, ...rest });
  await expect(ask({ ownCosts: [[], [1]] })).rejects.toThrow("radio 0 has no channel to choose from");
  await expect(
    ask({
      ownCosts: [
        [1, -2],
        [3, 4],
      ],
    }),
  ).rejects.toThrow("a cost of radio 0 is -2; it must be 0 or more");
  await expect(ask({ couplings: [{ ...pair, b: 5 }] })).rejects.toThrow("coupling 0 names radio 5; there are 2");
  await expect(ask({ couplings: [{ ...pair, b: 0 }] })).rejects.toThrow("couples radio 0 with itself");
  await expect(ask({ couplings: [{ ...pair, costs: [[1, 0]] }] })).rejects.toThrow("coupling 0 must have 2 rows of 2");
  await expect(
    ask({
      couplings: [
        {
          ...pair,
          costs: [
            [1, 0],
            [0, -1],
          ],
        },
      ],
    }),
  ).rejects.toThrow("coupling 0 has a cost below 0");
  await expect(ask({ fixed: [2, null] })).rejects.toThrow("radio 0 is fixed to channel 2; it has 2");
});
