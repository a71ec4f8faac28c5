import { randomUUID } from "node:crypto";
import type { PGlite } from "@electric-sql/pglite";
import { LIST_KINDS, ROW_SCHEMAS, type Edit, type PlanRows, type RowKind } from "#core/plan";
import { z } from "zod";
import { readPlan } from "./plans";

const versionSchema = z.object({
  id: z.string(),
  name: z.string(),
  who: z.string(),
  at: z.coerce.date(),
  historyId: z.number(),
});
export type Version = z.infer<typeof versionSchema>;

/** Keeps a plan as it stands now under a name. */
export async function nameVersion(db: PGlite, planId: string, name: string, who: string): Promise<void> {
  const rows = await readPlan(db, planId);
  if (!rows) throw new RangeError(`there is no plan ${planId}`);
  await db.query(
    "INSERT INTO versions (plan_id, id, name, who, history_id, rows) SELECT $1, $2, $3, $4, coalesce(max(id), 0), $5::jsonb FROM history WHERE plan_id = $1",
    [planId, randomUUID(), name, who, JSON.stringify(rows)],
  );
}

/** Named versions, newest first. */
export async function listVersions(db: PGlite, planId: string): Promise<Version[]> {
  const { rows } = await db.query(
    'SELECT id, name, who, at, history_id::int AS "historyId" FROM versions WHERE plan_id = $1 ORDER BY at DESC',
    [planId],
  );
  return rows.map((row) => versionSchema.parse(row));
}

/** The rows of a version, each checked, or null when there is none of that id. */
export async function readVersion(db: PGlite, planId: string, id: string): Promise<PlanRows | null> {
  const { rows } = await db.query<{ rows: Record<string, unknown> }>(
    "SELECT rows FROM versions WHERE plan_id = $1 AND id = $2",
    [planId, id],
  );
  const kept = rows[0]?.rows;
  if (!kept) return null;
  const lists = Object.fromEntries(
    LIST_KINDS.map((kind) => [kind, ((kept[kind] ?? []) as unknown[]).map((row) => ROW_SCHEMAS[kind].parse(row))]),
  );
  return { plan: ROW_SCHEMAS.plans.parse(kept.plan), ...lists } as PlanRows;
}

export async function dropVersion(db: PGlite, planId: string, id: string): Promise<void> {
  await db.query("DELETE FROM versions WHERE plan_id = $1 AND id = $2", [planId, id]);
}

/** The edits that make one state of a plan of another. */
export function editsBetween(from: PlanRows, to: PlanRows): Edit[] {
  const edits: Edit[] = [];
  if (JSON.stringify(from.plan) !== JSON.stringify(to.plan))
    edits.push({ kind: "plans", id: to.plan.id, row: to.plan });
  for (const kind of LIST_KINDS) {
    const before = new Map((from[kind] as { id: string }[]).map((row) => [row.id, JSON.stringify(row)]));
    for (const row of to[kind]) {
      if (before.get(row.id) !== JSON.stringify(row)) edits.push({ kind: kind as RowKind, id: row.id, row } as Edit);
      before.delete(row.id);
    }
    for (const id of before.keys()) edits.push({ kind: kind as RowKind, id, row: null } as Edit);
  }
  return edits;
}
