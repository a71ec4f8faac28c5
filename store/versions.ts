import { randomUUID } from "node:crypto";
import {
  lackedBefore,
  LIST_KINDS,
  patchBetween,
  radioWithChannelSchema,
  removePatch,
  ROW_SCHEMAS,
  rowsOfBefore,
  type Patch,
  type PlanRows,
  type RowKinds,
  type RowsWithChannels,
} from "#core/plan";
import { z } from "zod";
import type { Db, Queries } from "./db";
import { readPlanAt } from "./plans";

const versionSchema = z.object({
  id: z.string(),
  name: z.string(),
  who: z.string(),
  at: z.coerce.date(),
  revision: z.coerce.number(),
});
export type Version = z.infer<typeof versionSchema>;

/** Keeps a plan as it stands now under a name. */
export async function nameVersion(db: Db, planId: string, name: string, who: string): Promise<void> {
  const at = await readPlanAt(db, planId);
  if (!at) throw new RangeError(`there is no plan ${planId}`);
  await db.transaction((tx) =>
    tx.query("INSERT INTO versions (plan_id, id, name, who, revision, rows) VALUES ($1, $2, $3, $4, $5, $6::jsonb)", [
      planId,
      randomUUID(),
      name,
      who,
      at.revision,
      JSON.stringify(at.rows),
    ]),
  );
}

/** Named versions, newest first. */
export async function listVersions(db: Queries, planId: string): Promise<Version[]> {
  const { rows } = await db.query(
    "SELECT id, name, who, at, revision FROM versions WHERE plan_id = $1 ORDER BY at DESC",
    [planId],
  );
  return rows.map((row) => versionSchema.parse(row));
}

/** The rows of a version, each checked; null where no version has that id. */
export async function readVersion(db: Queries, planId: string, id: string): Promise<PlanRows | null> {
  const { rows } = await db.query<{ rows: Record<string, unknown> }>(
    "SELECT rows FROM versions WHERE plan_id = $1 AND id = $2",
    [planId, id],
  );
  const kept = rows[0]?.rows;
  if (!kept) return null;
  const isOld = !kept.carriers;
  const lists = Object.fromEntries(
    LIST_KINDS.map((kind) => {
      const schema: z.ZodType = isOld && kind === "radios" ? radioWithChannelSchema : ROW_SCHEMAS[kind];
      const usual = lackedBefore(kind, 0);
      return [kind, ((kept[kind] ?? []) as object[]).map((row) => schema.parse({ ...usual, ...row }))];
    }),
  );
  const read = { plan: ROW_SCHEMAS.plans.parse(kept.plan), ...lists };
  // In an older one every radio carried its channel itself.
  return isOld ? rowsOfBefore(read as unknown as RowsWithChannels) : (read as unknown as PlanRows);
}

export async function dropVersion(db: Queries, planId: string, id: string): Promise<void> {
  await db.query("DELETE FROM versions WHERE plan_id = $1 AND id = $2", [planId, id]);
}

/** The patches that make one state of a plan of another. */
export function patchesBetween(from: PlanRows, to: PlanRows): Patch[] {
  const settings = patchBetween("plans", from.plan, to.plan);
  const patches: Patch[] = settings ? [settings] : [];
  for (const kind of LIST_KINDS) {
    const before = new Map((from[kind] as { id: string }[]).map((row) => [row.id, row]));
    for (const row of to[kind]) {
      const patch = patchBetween(kind, before.get(row.id) as RowKinds[typeof kind] | undefined, row);
      if (patch) patches.push(patch);
      before.delete(row.id);
    }
    for (const id of before.keys()) patches.push(removePatch(kind, id));
  }
  return patches;
}
