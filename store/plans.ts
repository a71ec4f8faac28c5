import type { FieldNote } from "#core/crews";
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
import { accountOf, setRole } from "./accounts";
import type { Stock } from "#core/bill";
import type { StagingNote } from "#core/staging";
import { addFieldNotes, writeVoice } from "./fieldNotes";
import { putStock, STOCK_FIELDS } from "./stock";
import { writeStaging } from "./staging";
import { writeBytes, type PlanBytes } from "./bytes";
import type { Db, Queries } from "./db";
import { planStamp, writeEntry, type Author } from "./record";
import { selectList, toRecord, upsertSql } from "./rows";

async function rowsOf<K extends RowKind>(db: Queries, kind: K, planId: string): Promise<RowKinds[K][]> {
  const { rows } = await db.query(`SELECT ${selectList(kind)} FROM ${kind} WHERE plan_id = $1 ORDER BY id`, [planId]);
  return rows.map((row) => ROW_SCHEMAS[kind].parse(row) as RowKinds[K]);
}

export async function listPlans(
  db: Queries,
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

/** What a plan is called; null when there is no such plan. */
export async function readPlanName(db: Queries, planId: string): Promise<string | null> {
  const { rows } = await db.query<{ name: string }>("SELECT name FROM plans WHERE id = $1", [planId]);
  return rows[0]?.name ?? null;
}

/** A plan's own row, its revision and what names its state; null when there is no such plan. */
async function planRow(db: Queries, planId: string): Promise<Omit<PlanText, "lists"> | null> {
  const { rows } = await db.query<{ revision: number }>(
    `SELECT ${selectList("plans")}, revision::float8 AS revision FROM plans WHERE id = $1`,
    [planId],
  );
  if (!rows[0]) return null;
  const { revision } = rows[0];
  const plan = planSchema.parse(rows[0]);
  return { plan, revision, stamp: `${plan.createdAt} ${revision}` };
}

/** A plan's rows at one moment. */
export interface PlanAt {
  rows: PlanRows;
  revision: number;
  /** Names the state: no other plan and no other moment has the same. */
  stamp: string;
}

/** All rows of a plan as of one moment, each checked, or null when there is no such plan. */
export async function readPlanAt(db: Db, planId: string): Promise<PlanAt | null> {
  return db.snapshot(async (tx) => {
    const own = await planRow(tx, planId);
    if (!own) return null;
    const rows: PlanRows = emptyRows(own.plan);
    for (const kind of LIST_KINDS) Object.assign(rows, { [kind]: await rowsOf(tx, kind, planId) });
    return { rows, revision: own.revision, stamp: own.stamp };
  });
}

/** A plan's rows at one moment as the database writes them down: whoever needs them reads them where that costs nobody time. */
export interface PlanText {
  plan: Plan;
  /** Of each list of the plan its pages, each a list as JSON. */
  lists: Record<string, string[]>;
  revision: number;
  stamp: string;
}

/** Rows of one list that are asked for at once: nobody waits for the database longer than that takes. */
const ROWS_A_PAGE = 2000;
/** How often a plan that changes while it is read is begun again before all others have to wait. */
const TRIES = 3;

/** The same as `readPlanAt`, unread; whoever else asks the database meanwhile is let in between. */
export async function readPlanText(db: Db, planId: string): Promise<PlanText | null> {
  for (let tries = 0; tries < TRIES; tries++) {
    const read = await textOf(db, planId);
    if (!read || (await planStamp(db, planId)) === read.stamp) return read;
  }
  return db.snapshot((tx) => textOf(tx, planId));
}

async function textOf(db: Queries, planId: string): Promise<PlanText | null> {
  const own = await planRow(db, planId);
  if (!own) return null;
  const lists: Record<string, string[]> = {};
  for (const kind of LIST_KINDS) {
    const pages: string[] = [];
    for (let after = ""; ;) {
      const { rows } = await db.query<{ text: string; count: number; last: string }>(
        `SELECT coalesce(json_agg(t), '[]')::text AS text, count(*)::int AS count, max(t.id) AS last FROM (
           SELECT ${selectList(kind)} FROM ${kind} WHERE plan_id = $1 AND id > $2 ORDER BY id LIMIT ${ROWS_A_PAGE}
         ) t`,
        [planId, after],
      );
      const { text, count, last } = rows[0]!;
      pages.push(text);
      if (count < ROWS_A_PAGE) break;
      after = last;
    }
    lists[kind] = pages;
  }
  return { ...own, lists };
}

/** What a plan's ground is made of. */
export async function readGroundRows(db: Queries, planId: string): Promise<Pick<PlanRows, "layers" | "areas">> {
  return { layers: await rowsOf(db, "layers", planId), areas: await rowsOf(db, "areas", planId) };
}

/** All rows of a plan, each checked, or null when there is no such plan. */
export async function readPlan(db: Db, planId: string): Promise<PlanRows | null> {
  return (await readPlanAt(db, planId))?.rows ?? null;
}

/** What lies beside a plan's record. */
interface Beside {
  staging: readonly StagingNote[];
  stock: readonly Stock[];
  fieldNotes: readonly FieldNote[];
  /** What was spoken, by the ids of its notes. */
  voices?: ReadonlyMap<string, Uint8Array>;
}
const NOTHING_BESIDE: Beside = { staging: [], stock: [], fieldNotes: [] };

/** Writes a whole new plan in one transaction; its first logbook entry says where it came from. */
export async function createPlan(
  db: Db,
  rows: PlanRows,
  { who, authors: [author] }: Author,
  what: string,
  bytes: PlanBytes = { tiles: [], photos: [] },
  { staging, stock, fieldNotes, voices }: Beside = NOTHING_BESIDE,
): Promise<void> {
  const planId = rows.plan.id;
  await db.transaction(async (tx) => {
    for (const kind of ROW_KINDS) {
      const list: object[] = kind === "plans" ? [rows.plan] : rows[kind];
      if (list.length === 0) continue;
      await tx.query(upsertSql(kind), [
        JSON.stringify(list.map((row) => toRecord(kind, ROW_SCHEMAS[kind].parse(row)))),
      ]);
    }
    await writeBytes(tx, planId, bytes);
    const accountId = accountOf(author);
    if (accountId !== null) await setRole(tx, planId, accountId, "owner");
    await addFieldNotes(tx, planId, fieldNotes);
    for (const [noteId, voice] of voices ?? []) await writeVoice(tx, planId, noteId, voice);
    for (const note of staging) await writeStaging(tx, planId, note);
    for (const one of stock)
      for (const field of STOCK_FIELDS) await putStock(tx, planId, one.itemId, field, one[field]);
    await writeEntry(tx, {
      ...{ planId, revision: 1, op: "", author, who, what, reason: "", patches: [] },
      ...{ kind: "change", ofId: null, state: "done" },
    });
  });
}

export async function deletePlan(db: Db, planId: string): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.query("DELETE FROM plans WHERE id = $1", [planId]);
    await tx.query("DELETE FROM jobs WHERE plan_id = $1", [planId]);
  });
}
