import type { PGlite } from "@electric-sql/pglite";
import { planSchema, type Plan, type PlanRows, type RowKind, type RowKinds } from "#core/plan";
import { ROW_SCHEMAS, selectList, toRecord, upsertSql } from "./rows";

async function rowsOf<K extends RowKind>(db: PGlite, kind: K, planId: string): Promise<RowKinds[K][]> {
  const { rows } = await db.query(`SELECT ${selectList(kind)} FROM ${kind} WHERE plan_id = $1 ORDER BY id`, [planId]);
  return rows.map((row) => ROW_SCHEMAS[kind].parse(row));
}

export async function listPlans(
  db: PGlite,
): Promise<(Plan & { siteCount: number; subscriberCount: number; linkCount: number })[]> {
  const { rows } = await db.query<Record<string, unknown>>(
    `SELECT ${selectList("plans")},
       (SELECT count(*)::int FROM sites WHERE plan_id = plans.id) AS "siteCount",
       (SELECT count(*)::int FROM subscribers WHERE plan_id = plans.id) AS "subscriberCount",
       (SELECT count(*)::int FROM links WHERE plan_id = plans.id) AS "linkCount"
     FROM plans ORDER BY created_at`,
  );
  return rows.map((row) => ({
    ...planSchema.parse(row),
    siteCount: Number(row.siteCount),
    subscriberCount: Number(row.subscriberCount),
    linkCount: Number(row.linkCount),
  }));
}

/** All rows of a plan, each checked, or null when there is no such plan. */
export async function readPlan(db: PGlite, planId: string): Promise<PlanRows | null> {
  const { rows } = await db.query(`SELECT ${selectList("plans")} FROM plans WHERE id = $1`, [planId]);
  if (!rows[0]) return null;
  return {
    plan: planSchema.parse(rows[0]),
    sites: await rowsOf(db, "sites", planId),
    subscribers: await rowsOf(db, "subscribers", planId),
    radios: await rowsOf(db, "radios", planId),
    links: await rowsOf(db, "links", planId),
    measurements: await rowsOf(db, "measurements", planId),
    equipment: await rowsOf(db, "equipment", planId),
  };
}

/** Writes a whole new plan in one transaction; its first logbook entry says where it came from. */
export async function createPlan(db: PGlite, rows: PlanRows, who: string, what: string): Promise<void> {
  await db.transaction(async (tx) => {
    const tables: [RowKind, object[]][] = [
      ["plans", [rows.plan]],
      ["sites", rows.sites],
      ["subscribers", rows.subscribers],
      ["equipment", rows.equipment],
      ["radios", rows.radios],
      ["links", rows.links],
      ["measurements", rows.measurements],
    ];
    for (const [kind, list] of tables) {
      if (list.length === 0) continue;
      await tx.query(upsertSql(kind), [
        JSON.stringify(list.map((row) => toRecord(kind, ROW_SCHEMAS[kind].parse(row)))),
      ]);
    }
    await tx.query(
      "INSERT INTO history (plan_id, who, what, reason, kind, edits) VALUES ($1, $2, $3, '', 'change', '[]'::jsonb)",
      [rows.plan.id, who, what],
    );
  });
}

export async function deletePlan(db: PGlite, planId: string): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.query("DELETE FROM history_stack WHERE plan_id = $1", [planId]);
    await tx.query("DELETE FROM plans WHERE id = $1", [planId]);
  });
}
