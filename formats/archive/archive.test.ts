import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { bareSchema, emptyRows, siteSchema, subscriberSchema, type PlanRows } from "#core/plan";
import { valley } from "#core/testing";
import { demoPlan, islandSurface } from "#demo";
import { readRowFiles, rowFiles } from "#formats/archive";
import { z } from "zod";

const asRead = (rows: PlanRows, planId: string): PlanRows => readRowFiles(rowFiles(rows), planId);
/** Rows as an archive holds them: of another plan, and in the order of their ids. */
const moved = <T extends { id: string }>(rows: readonly T[], planId: string) =>
  rows.map((row) => ({ ...row, planId })).sort((x, y) => (x.id < y.id ? -1 : 1));

test("the whole demo goes into an archive's files and comes back as it was", () => {
  const rows = demoPlan(islandSurface());
  const { plan, ...lists } = asRead(rows, "other");
  expect(plan).toEqual({ ...rows.plan, id: "other", isDemo: false });
  for (const [kind, read] of Object.entries(lists) as [Exclude<keyof PlanRows, "plan">, { id: string }[]][])
    expect([kind, read]).toEqual([kind, moved(rows[kind] as { id: string }[], "other")]);
});

/** Anything that a field's schema allows, null included where it may be. */
function anythingFor(field: z.ZodType, name: string): fc.Arbitrary<unknown> {
  if (bareSchema(field) !== field) {
    const some = anythingFor(bareSchema(field), name);
    return field.safeParse(null).success ? fc.option(some) : some;
  }
  if (field instanceof z.ZodEnum) return fc.constantFrom(...(field.options as string[]));
  if (field instanceof z.ZodBoolean) return fc.boolean();
  if (field instanceof z.ZodNumber) {
    const [min, max] = [Math.max(field.minValue ?? 0, -1e6), Math.min(field.maxValue ?? 1e6, 1e6)];
    return field.isInt
      ? fc.integer({ min: Math.ceil(min), max: Math.floor(max) })
      : fc.double({ min, max, noNaN: true }).map((x) => (x === 0 ? 0 : x));
  }
  if (field instanceof z.ZodString)
    return fc.oneof(fc.string({ maxLength: 20 }), fc.constantFrom("=1+1", 'a,"b"\nc', "'x"));
  throw new Error(`${name} is of a kind that this test does not know`);
}

test.each([
  ["sites", siteSchema],
  ["subscribers", subscriberSchema],
] as const)("every value that %s may hold comes through their table", (kind, schema) => {
  const rows = emptyRows(valley().rows.plan);
  const fields = Object.entries(schema.shape).filter(([name]) => name !== "id" && name !== "planId");
  const anyRow = fc.record(Object.fromEntries(fields.map(([name, field]) => [name, anythingFor(field, name)])));
  fc.assert(
    fc.property(anyRow, (values) => {
      const row = { id: "a", planId: "p", ...values };
      fc.pre(schema.safeParse(row).success);
      expect(asRead({ ...rows, [kind]: [row] }, "p")[kind]).toEqual([schema.parse(row)]);
    }),
    { numRuns: 300 },
  );
});
