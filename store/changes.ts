import type { PGlite, Transaction } from "@electric-sql/pglite";
import { ROW_KINDS, ROW_SCHEMAS, type Edit, type RowKind } from "#core/plan";
import { z } from "zod";
import { selectList, toRecord, upsertSql } from "./rows";

/** Said when a change leaves the plan pointing at something it does not hold. */
export class BrokenReference extends Error {
  constructor(cause: unknown) {
    super(
      "Something in the plan still stands on what would go: its radio, its link or its readings. Remove it on the plan, where what goes along is named first. Nothing was kept.",
      { cause },
    );
    this.name = "BrokenReference";
  }
}

const keptEditSchema = z.object({
  kind: z.enum(ROW_KINDS),
  id: z.string(),
  before: z.unknown().nullable(),
  after: z.unknown().nullable(),
});
type KeptEdit = z.infer<typeof keptEditSchema>;

export const historyEntrySchema = z.object({
  id: z.number(),
  at: z.coerce.date(),
  who: z.string(),
  what: z.string(),
  reason: z.string(),
  kind: z.enum(["change", "undo", "redo"]),
  ofId: z.number().nullable(),
  edits: z.array(keptEditSchema),
});
export type HistoryEntry = z.infer<typeof historyEntrySchema>;

export interface Change {
  planId: string;
  who: string;
  what: string;
  reason?: string;
  edits: Edit[];
}

async function rowsBefore(
  tx: Transaction,
  planId: string,
  kind: RowKind,
  ids: string[],
): Promise<Map<string, unknown>> {
  const scope = kind === "plans" ? "id = $1" : "plan_id = $1";
  const { rows } = await tx.query<{ id: string }>(
    `SELECT ${selectList(kind)} FROM ${kind} WHERE ${scope} AND id = ANY($2)`,
    [planId, ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** Puts and removes rows, each checked by its schema; gives back what stood there before. */
async function applyEdits(
  tx: Transaction,
  planId: string,
  edits: { kind: RowKind; id: string; row: unknown }[],
): Promise<KeptEdit[]> {
  const kept: KeptEdit[] = [];
  const put = new Map<RowKind, Record<string, unknown>[]>();
  const removed = new Map<RowKind, string[]>();
  for (const kind of ROW_KINDS) {
    const mine = edits.filter((edit) => edit.kind === kind);
    if (mine.length === 0) continue;
    const before = await rowsBefore(
      tx,
      planId,
      kind,
      mine.map((edit) => edit.id),
    );
    const records: Record<string, unknown>[] = [];
    const gone: string[] = [];
    for (const edit of mine) {
      const after = edit.row === null ? null : ROW_SCHEMAS[kind].parse(edit.row);
      if (after && (after.id !== edit.id || ("planId" in after ? after.planId : after.id) !== planId)) {
        throw new RangeError(`edit of ${kind} ${edit.id} carries a row of ${after.id} in another plan`);
      }
      kept.push({ kind, id: edit.id, before: before.get(edit.id) ?? null, after });
      if (after) records.push(toRecord(kind, after));
      else gone.push(edit.id);
    }
    if (records.length > 0) put.set(kind, records);
    if (gone.length > 0) removed.set(kind, gone);
  }
  for (const kind of ROW_KINDS) {
    if (put.has(kind)) await tx.query(upsertSql(kind), [JSON.stringify(put.get(kind))]);
  }
  for (const kind of [...ROW_KINDS].reverse()) {
    if (!removed.has(kind)) continue;
    const scope = kind === "plans" ? "id = $1" : "plan_id = $1";
    await tx.query(`DELETE FROM ${kind} WHERE ${scope} AND id = ANY($2)`, [planId, removed.get(kind)]);
  }
  return kept;
}

async function log(
  tx: Transaction,
  change: Omit<Change, "edits">,
  kind: HistoryEntry["kind"],
  ofId: number | null,
  edits: KeptEdit[],
): Promise<number> {
  const { rows } = await tx.query<{ id: number }>(
    "INSERT INTO history (plan_id, who, what, reason, kind, of_id, edits) VALUES ($1, $2, $3, $4, $5, $6, $7::jsonb) RETURNING id::int AS id",
    [change.planId, change.who, change.what, change.reason ?? "", kind, ofId, JSON.stringify(edits)],
  );
  return rows[0]!.id;
}

function asBrokenReference(error: unknown): unknown {
  return (error as { code?: string }).code === "23503" ? new BrokenReference(error) : error;
}

/** Applies a change in one transaction together with its entry in the logbook. Gives the entry's id. */
export async function applyChange(db: PGlite, change: Change): Promise<number> {
  try {
    return await db.transaction(async (tx) => {
      const kept = await applyEdits(tx, change.planId, change.edits);
      const id = await log(tx, change, "change", null, kept);
      await tx.query("DELETE FROM history_stack WHERE plan_id = $1 AND undone", [change.planId]);
      await tx.query(
        "INSERT INTO history_stack (plan_id, position, history_id, undone) SELECT $1, coalesce(max(position), 0) + 1, $2, false FROM history_stack WHERE plan_id = $1",
        [change.planId, id],
      );
      return id;
    });
  } catch (error) {
    throw asBrokenReference(error);
  }
}

/** Takes back the newest change in force, or puts the last one taken back into force. Null when there is none. */
export async function stepHistory(
  db: PGlite,
  planId: string,
  who: string,
  way: "undo" | "redo",
): Promise<string | null> {
  return db.transaction(async (tx) => {
    const pick =
      way === "undo"
        ? "SELECT position, history_id FROM history_stack WHERE plan_id = $1 AND NOT undone ORDER BY position DESC LIMIT 1"
        : "SELECT position, history_id FROM history_stack WHERE plan_id = $1 AND undone ORDER BY position LIMIT 1";
    const { rows } = await tx.query<{ position: number; history_id: number }>(pick, [planId]);
    const step = rows[0];
    if (!step) return null;
    const found = await tx.query<{ what: string; edits: unknown }>("SELECT what, edits FROM history WHERE id = $1", [
      step.history_id,
    ]);
    const { what } = found.rows[0]!;
    const edits = z.array(keptEditSchema).parse(found.rows[0]!.edits);
    const inOrder = way === "undo" ? [...edits].reverse() : edits;
    const kept = await applyEdits(
      tx,
      planId,
      inOrder.map((edit) => ({ kind: edit.kind, id: edit.id, row: way === "undo" ? edit.before : edit.after })),
    );
    await log(tx, { planId, who, what }, way, step.history_id, kept);
    await tx.query("UPDATE history_stack SET undone = $3 WHERE plan_id = $1 AND position = $2", [
      planId,
      step.position,
      way === "undo",
    ]);
    return what;
  });
}

/** What undo and redo would act on, by its label; null where there is nothing. */
export async function historySteps(db: PGlite, planId: string): Promise<{ undo: string | null; redo: string | null }> {
  const { rows } = await db.query<{ undo: string | null; redo: string | null }>(
    `SELECT
       (SELECT h.what FROM history_stack s JOIN history h ON h.id = s.history_id WHERE s.plan_id = $1 AND NOT s.undone ORDER BY s.position DESC LIMIT 1) AS undo,
       (SELECT h.what FROM history_stack s JOIN history h ON h.id = s.history_id WHERE s.plan_id = $1 AND s.undone ORDER BY s.position LIMIT 1) AS redo`,
    [planId],
  );
  return rows[0]!;
}

/** Names the newest entry of a plan's logbook, and with it the state of its rows; null when there is no such plan. */
export async function newestEntry(db: PGlite, planId: string): Promise<string | null> {
  const { rows } = await db.query<{ stamp: string | null }>(
    "SELECT p.created_at || ' ' || coalesce((SELECT max(id) FROM history WHERE plan_id = p.id), 0) AS stamp FROM plans p WHERE p.id = $1",
    [planId],
  );
  return rows[0]?.stamp ?? null;
}

/** What of a logbook is wanted: words in what was done, a person, a kind of thing; before an entry, for the next page. */
export interface HistoryFilter {
  words?: string;
  who?: string;
  kind?: RowKind;
  beforeId?: number;
  limit?: number;
}

/** The logbook of a plan, newest first. */
export async function readHistory(
  db: PGlite,
  planId: string,
  { words = "", who = "", kind, beforeId, limit = 200 }: HistoryFilter = {},
): Promise<HistoryEntry[]> {
  const { rows } = await db.query(
    `SELECT id::int AS id, at, who, what, reason, kind, of_id::int AS "ofId", edits FROM history
     WHERE plan_id = $1
       AND ($2 = '' OR position(lower($2) IN lower(what || ' ' || reason)) > 0)
       AND ($3 = '' OR who = $3)
       AND ($4::text IS NULL OR edits @> jsonb_build_array(jsonb_build_object('kind', $4::text)))
       AND ($5::bigint IS NULL OR id < $5::bigint)
     ORDER BY id DESC LIMIT $6`,
    [planId, words, who, kind ?? null, beforeId ?? null, limit],
  );
  return rows.map((row) => historyEntrySchema.parse(row));
}

/** Everybody who stands in a plan's logbook. */
export async function historyPeople(db: PGlite, planId: string): Promise<string[]> {
  const { rows } = await db.query<{ who: string }>("SELECT DISTINCT who FROM history WHERE plan_id = $1 ORDER BY who", [
    planId,
  ]);
  return rows.map(({ who }) => who);
}
