import { expect, test } from "@jest/globals";
import { clientAntennas, leastClientAntenna } from "#core/search";
import { evaluate } from "#core/evaluate";
import { hearingAt, listeningIn } from "#core/interference";
import { withPatches } from "#core/plan";
import { town, valley } from "#core/testing";

const made = valley(0, town);
const LINK = "l0";
const rows = clientAntennas(made.world, LINK, made.between);

test("each antenna tells what the plan says once it is taken", () => {
  expect(rows.length).toBeGreaterThan(2);
  expect(rows.filter(({ isOwn }) => isOwn)).toHaveLength(1);
  for (const row of rows) {
    const world = withPatches(made.world, row.patches);
    const { answers, summaries } = evaluate(world, made.between);
    const { aToB, bToA } = answers.get(LINK)!.path!;
    expect(row.levelDbm).toBeCloseTo(aToB.chainLevelDbm, 9);
    expect(row.snrDb).toBeCloseTo(aToB.snrDb, 9);
    expect(row.marginLeftDb).toBeCloseTo(Math.min(aToB.marginLeftDb, bToA.marginLeftDb), 9);
    expect(row.isServed).toBe(summaries.get(LINK)!.served);
    expect([row.downMbps, row.upMbps]).toEqual([aToB.rateMbps, bToA.rateMbps]);
    const { noise } = hearingAt(listeningIn(world), world.links.get(LINK)!, "r0", made.between);
    expect(row.heard).toEqual(noise.radios.slice(0, 3));
    expect(row.heardDbm).toBe(noise.dbm);
    const model = world.antennaModels.get(row.antennaModelId)!;
    const own = made.world.antennaModels.get(made.world.radios.get("r0")!.antennaModelId)!;
    expect(row.costEur).toBeCloseTo(model.priceEur - own.priceEur, 9);
  }
  // The other sector on its channel is heard.
  expect(rows.some(({ heard }) => heard.length > 0)).toBe(true);
});

test("the least is the cheapest that serves, and there may be none", () => {
  const least = leastClientAntenna(rows);
  const able = rows.filter(({ isServed }) => isServed);
  if (able.length === 0) expect(least).toBeNull();
  else expect(least!.costEur).toBe(Math.min(...able.map(({ costEur }) => costEur)));
  expect(leastClientAntenna(rows.map((row) => ({ ...row, isServed: false })))).toBeNull();
  const [a, b] = [
    { ...rows[0]!, isServed: true, costEur: 5, gainDbi: 20 },
    { ...rows[0]!, isServed: true, costEur: 5, gainDbi: 15 },
  ];
  expect(leastClientAntenna([a, b])).toBe(b);
});

test("a link without a customer is refused", () => {
  expect(() => clientAntennas(made.world, "bridge", made.between)).toThrow(
    'There is no customer\'s link "bridge" in the plan.',
  );
});
