import { ROW_KINDS, type KeptPatch, type RowKind } from "#core/plan";
import { z } from "zod";
import type { Queries } from "./db";
import { upgraderOf } from "./upgrades";

const keptPatchSchema = z
  .object({ kind: z.enum(ROW_KINDS), id: z.string() })
  .loose()
  .transform((patch) => patch as unknown as KeptPatch);

const entrySchema = z.object({
  id: z.coerce.number(),
  revision: z.coerce.number(),
  at: z.coerce.date(),
  who: z.string(),
  what: z.string(),
  reason: z.string(),
  kind: z.enum(["change", "undo", "redo"]),
  schema: z.number(),
  patches: z.array(keptPatchSchema),
});
export type HistoryEntry = z.infer<typeof entrySchema>;

/** What of a logbook is wanted: words in what was done, a person, a kind of thing; before an entry, for the next page. */
export interface HistoryFilter {
  words?: string;
  who?: string;
  kind?: RowKind;
  beforeRevision?: number;
  limit?: number;
}

/** The logbook of a plan, newest first, in today's shape. */
export async function readHistory(
  db: Queries,
  planId: string,
  { words = "", who = "", kind, beforeRevision, limit = 200 }: HistoryFilter = {},
): Promise<HistoryEntry[]> {
  const { rows } = await db.query(
    `SELECT id::float8 AS id, revision::float8 AS revision, at, who, what, reason, kind, schema, patches FROM history
     WHERE plan_id = $1
       AND ($2 = '' OR position(lower($2) IN lower(what || ' ' || reason)) > 0)
       AND ($3 = '' OR who = $3)
       AND ($4::text IS NULL OR patches @> jsonb_build_array(jsonb_build_object('kind', $4::text)))
       AND ($5::bigint IS NULL OR revision < $5::bigint)
     ORDER BY revision DESC LIMIT $6`,
    [planId, words, who, kind ?? null, beforeRevision ?? null, limit],
  );
  const upgraded = upgraderOf(db, planId);
  const entries: HistoryEntry[] = [];
  for (const row of rows) {
    const entry = entrySchema.parse(row);
    entries.push({ ...entry, patches: await upgraded(entry.patches, entry.schema) });
  }
  return entries;
}

/** Everybody who stands in a plan's logbook. */
export async function historyPeople(db: Queries, planId: string): Promise<string[]> {
  const { rows } = await db.query<{ who: string }>("SELECT DISTINCT who FROM history WHERE plan_id = $1 ORDER BY who", [
    planId,
  ]);
  return rows.map(({ who }) => who);
}
