import type { PGlite } from "@electric-sql/pglite";
import { planSchema, type Plan, type PlanRows, type RowKind, type RowKinds } from "#core/plan";
import { writePhoto } from "./photos";
import { ROW_SCHEMAS, selectList, toRecord, upsertSql } from "./rows";
import { writeTiles } from "./terrain";

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
    layers: await rowsOf(db, "layers", planId),
    areas: await rowsOf(db, "areas", planId),
    overlays: await rowsOf(db, "overlays", planId),
    scans: await rowsOf(db, "scans", planId),
    photos: await rowsOf(db, "photos", planId),
  };
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
    const tables: [RowKind, object[]][] = [
      ["plans", [rows.plan]],
      ["layers", rows.layers],
      ["areas", rows.areas],
      ["overlays", rows.overlays],
      ["sites", rows.sites],
      ["subscribers", rows.subscribers],
      ["equipment", rows.equipment],
      ["radios", rows.radios],
      ["links", rows.links],
      ["measurements", rows.measurements],
      ["scans", rows.scans],
      ["photos", rows.photos],
    ];
    for (const [kind, list] of tables) {
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
