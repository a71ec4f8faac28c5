import type { PGlite } from "@electric-sql/pglite";
import {
  emptyRows,
  LIST_KINDS,
  planSchema,
  ROW_KINDS,
  ROW_SCHEMAS,
  type Plan,
  type PlanRows,
  type RowKind,
  type RowKinds,
} from "#core/plan";
import { writePhoto } from "./photos";
import { selectList, toRecord, upsertSql } from "./rows";
import { writeTiles } from "./terrain";

async function rowsOf<K extends RowKind>(db: PGlite, kind: K, planId: string): Promise<RowKinds[K][]> {
  const { rows } = await db.query(`SELECT ${selectList(kind)} FROM ${kind} WHERE plan_id = $1 ORDER BY id`, [planId]);
  return rows.map((row) => ROW_SCHEMAS[kind].parse(row) as RowKinds[K]);
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
  const read: PlanRows = emptyRows(planSchema.parse(rows[0]));
  for (const kind of LIST_KINDS) Object.assign(read, { [kind]: await rowsOf(db, kind, planId) });
  return read;
}

/** The bytes that lie apart from a plan's rows: tiles by layer, pictures by photograph. */
export interface PlanBytes {
  tiles: { layerId: string; index: number; data: Uint8Array }[];
  photos: { photoId: string; data: Uint8Array }[];
}

/** Writes a whole new plan in one transaction; its first logbook entry says where it came from. */
export async function createPlan(
  db: PGlite,
  rows: PlanRows,
  who: string,
  what: string,
  bytes: PlanBytes = { tiles: [], photos: [] },
): Promise<void> {
  await db.transaction(async (tx) => {
    for (const kind of ROW_KINDS) {
      const list: object[] = kind === "plans" ? [rows.plan] : rows[kind];
      if (list.length === 0) continue;
      await tx.query(upsertSql(kind), [
        JSON.stringify(list.map((row) => toRecord(kind, ROW_SCHEMAS[kind].parse(row)))),
      ]);
    }
    for (const { layerId, ...tile } of bytes.tiles) await writeTiles(tx, rows.plan.id, layerId, [tile]);
    for (const { photoId, data } of bytes.photos) await writePhoto(tx, rows.plan.id, photoId, data);
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
