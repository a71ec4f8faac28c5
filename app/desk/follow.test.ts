import { expect, test } from "@jest/globals";
import { evaluate, evaluateAfter } from "#core/evaluate";
import { countsByStage } from "#core/findings";
import { removePatch, rowsOf, setPatch, withPatches } from "#core/plan";
import { valley } from "#core/testing";
import { firstOfEach, fromColumns, rowsWire, shownSince, summariesWire, toColumns, type PlanWire } from "#wire";
import { deskDataAfter, deskDataOf } from "./deskData";

const sent = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

test("rows come back from their columns as they were: one value, few, and one for each", () => {
  const rows = Array.from({ length: 40 }, (_, i) => ({
    id: `row-${i}`,
    planId: "p",
    kind: i % 3 === 0 ? "sector" : "bridge",
    heightM: i % 2 === 0 ? null : i / 7,
    body: { list: [i] },
  }));
  const columns = toColumns(rows);
  expect(fromColumns(sent(columns))).toEqual(rows);
  expect(columns.fields.planId).toEqual({ all: "p" });
  expect(columns.fields.kind).toMatchObject({ few: ["sector", "bridge"] });
  expect(columns.fields.id).toHaveProperty("each");
  expect(fromColumns(sent(toColumns([])))).toEqual([]);
  expect(fromColumns(toColumns([{ only: 1 }]))).toEqual([{ only: 1 }]);
});

const made = valley(12);
const first = evaluate(made.world, made.between);
const shownOf = ({ outcome, findings }: typeof first) => ({ outcome, findings, counts: countsByStage(findings) });
const wire: PlanWire = {
  plan: made.world.plan,
  rows: rowsWire(rowsOf(made.world)),
  revision: 1,
  terrain: null,
  shown: shownOf(first),
  summaries: summariesWire(first.summaries.values()),
  isSettled: true,
};

test("a window gets the plan as it stands, figures to the hundredth", () => {
  const data = deskDataOf(sent(wire));
  expect(data.world).toEqual(made.world);
  const [got, was] = [data.summaries.get("access")!, first.summaries.get("access")!];
  expect(got.marginLeftDb).toBeCloseTo(was.marginLeftDb!, 2);
  expect(Object.keys(got)).toEqual(Object.keys(was));
  expect([got.linkId, got.state, got.served]).toEqual([was.linkId, was.state, was.served]);
});

test("a change that is followed leads to the plan as it would be sent anew", () => {
  const patches = [setPatch("sites", "west", { name: "Mast" }), removePatch("links", "access")];
  const after = evaluateAfter(first, patches, made.between);
  const before = deskDataOf(sent(wire));
  const change = {
    revision: 2,
    patches,
    terrain: null,
    shown: shownSince(shownOf(after), wire.shown!.findings),
    isSettled: true,
    summaries: summariesWire([...after.answered].map((id) => after.summaries.get(id)!)),
  };
  const followed = deskDataAfter(before, sent(change), withPatches(before.world, patches))!;
  // Only what is said otherwise travels.
  expect(shownSince(shownOf(first), first.findings)).toMatchObject({
    ids: first.findings.map(({ id }) => id),
    fresh: [],
  });
  const lacking = { ...change, shown: { ...change.shown, ids: [...change.shown.ids, "elsewhere"] } };
  expect(deskDataAfter(before, sent(lacking), before.world)).toBeNull();
  // A first look leaves the window knowing from where it is to ask again.
  const looked = deskDataAfter(before, sent({ ...change, isSettled: false }), before.world)!;
  expect(looked.unsettled).toBe(1);
  expect(deskDataAfter(looked, sent({ ...change, revision: 3, isSettled: false }), before.world)!.unsettled).toBe(1);
  const anew = deskDataOf(
    sent({
      ...wire,
      rows: rowsWire(rowsOf(after.world)),
      revision: 2,
      shown: shownOf(after),
      summaries: summariesWire(after.summaries.values()),
    }),
  );
  expect(followed).toEqual(anew);
  expect([...followed.summaries.keys()]).toEqual(["bridge"]);
});

test("of each stage the first findings are sent, in their order", () => {
  const finding = first.findings[0]!;
  const many = Array.from({ length: 250 }, (_, i) => ({
    ...finding,
    id: `f${i}`,
    stage: i % 50 === 49 ? ("acceptance" as const) : ("paths" as const),
  }));
  const few = firstOfEach(many, countsByStage(many), 100);
  expect(few.filter(({ stage }) => stage === "paths")).toHaveLength(100);
  expect(few.filter(({ stage }) => stage === "acceptance").map(({ id }) => id)).toEqual([
    "f49",
    "f99",
    "f149",
    "f199",
    "f249",
  ]);
  expect(few).toEqual(many.filter((one) => few.includes(one)));
});
