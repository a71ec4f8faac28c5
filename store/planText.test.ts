import { beforeEach, expect, test } from "@jest/globals";
import { emptyRows, LIST_KINDS, setPatch, type Subscriber } from "#core/plan";
import { valley } from "#core/testing";
import {
  createPlan,
  deletePlan,
  isLookedAt,
  putLook,
  putReceived,
  dropSeries,
  readLook,
  readPlan,
  readPlanText,
  recordChange,
  signedBy,
  type Db,
} from "#store";
import { onBothDrivers } from "./testing/drivers";

/** The valley with so many houses. */
function rowsWith(houses: number) {
  const { rows } = valley();
  const [farm] = rows.subscribers;
  const more = Array.from({ length: houses }, (_, i): Subscriber => ({
    ...farm!,
    id: `house-${i}`,
    name: `House ${i}`,
  }));
  return { ...emptyRows(rows.plan), ...rows, subscribers: [farm!, ...more] };
}

onBothDrivers(({ store }) => {
  const db = () => store().db;
  beforeEach(() => deletePlan(db(), "valley"));

  test("a plan is read page by page, every row once and in its order, as one reading of all has it", async () => {
    // With the farm four thousand: the last page is full, and one more is asked for.
    await createPlan(db(), rowsWith(3999), signedBy("test"), "Began");
    const { plan, lists, revision } = (await readPlanText(db(), "valley"))!;
    const whole = (await readPlan(db(), "valley"))!;
    expect(plan).toEqual(whole.plan);
    expect(revision).toBe(1);
    for (const kind of LIST_KINDS)
      expect([kind, lists[kind]!.flatMap((page) => JSON.parse(page) as unknown[])]).toEqual([kind, whole[kind]]);
    expect(lists.subscribers!.map((page) => (JSON.parse(page) as unknown[]).length)).toEqual([2000, 2000, 0]);
    expect(await readPlanText(db(), "nowhere")).toBeNull();
  });

  test("a plan that changes while it is read is read again: its rows are of one moment", async () => {
    await createPlan(db(), rowsWith(2500), signedBy("test"), "Began");
    const patches = ["farm", "house-999"].map((id) => setPatch("subscribers", id, { people: 9 }));
    let changes = 2;
    /** Between two pages of customers somebody changes one of either page. */
    const disturbed: Db = {
      ...db(),
      query: async <T>(sql: string, parameters?: unknown[]) => {
        if (sql.includes("FROM subscribers") && parameters?.[1] !== "" && changes-- > 0)
          await recordChange(db(), { planId: "valley", ...signedBy("Ana"), what: "Moved in", patches });
        return db().query<T>(sql, parameters);
      },
    };
    const { lists, revision } = (await readPlanText(disturbed, "valley"))!;
    const people = lists
      .subscribers!.flatMap((page) => JSON.parse(page) as Subscriber[])
      .filter(({ id }) => id === "farm" || id === "house-999")
      .map((one) => one.people);
    expect(people).toEqual([9, 9]);
    expect(revision).toBe((await readPlanText(db(), "valley"))!.revision);
  });

  test("a look is kept in its parts instead of the one before, goes with the series, and a stranger's plan has none", async () => {
    await createPlan(db(), rowsWith(0), signedBy("test"), "Began");
    expect([await readLook(db(), "valley"), await isLookedAt(db(), "valley")]).toEqual([[], false]);
    await putReceived(db(), "valley", { gate: { kept: 3 } });
    const changed = async () =>
      (await db().query<{ changed: string }>("SELECT changed::text FROM watch_plans WHERE plan_id = 'valley'")).rows[0]!
        .changed;
    const before = await changed();
    await putLook(db(), "valley", [{ at: "now" }, [1, 2], ["ñ"]]);
    await putLook(db(), "valley", [{ at: "later" }, [3]]);
    expect(await readLook(db(), "valley")).toEqual([{ at: "later" }, [3]]);
    expect([await isLookedAt(db(), "valley"), await isLookedAt(db(), "nowhere")]).toEqual([true, false]);
    expect(await changed()).not.toBe(before);
    await dropSeries(db(), "valley");
    expect(await readLook(db(), "valley")).toEqual([]);
  });
});
