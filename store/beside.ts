import type { Queries } from "./db";

/** A short text that is another one whenever anything of a plan's rows in a table beside its record has changed. */
export async function besideStamp(
  db: Queries,
  table: "staging" | "stock" | "field_notes" | "watch_plans",
  planId: string,
): Promise<string> {
  const { rows } = await db.query<{ stamp: string }>(
    `SELECT count(*) || '-' || coalesce(max(changed), 0) AS stamp FROM ${table} WHERE plan_id = $1`,
    [planId],
  );
  return rows[0]!.stamp;
}
