import { emptyRows, LIST_KINDS, ROW_SCHEMAS, type PlanRows } from "#core/plan";
import type { Steps } from "#core/steps";
import type { PlanText } from "#store";

/** Rows that are checked in one step: as many as nobody notices. */
const ROWS_A_STEP = 250;

/** A plan's rows as the database wrote them down, each checked; a step after some of them. */
export function* readRows({ plan, lists }: Pick<PlanText, "plan" | "lists">): Steps<PlanRows> {
  const rows: PlanRows = emptyRows(plan);
  for (const kind of LIST_KINDS) {
    const list: unknown[] = [];
    for (const page of lists[kind]!) {
      for (const row of JSON.parse(page) as unknown[]) {
        list.push(ROW_SCHEMAS[kind].parse(row));
        if (list.length % ROWS_A_STEP === 0) yield;
      }
      yield;
    }
    Object.assign(rows, { [kind]: list });
  }
  return rows;
}
