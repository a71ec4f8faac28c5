import {
  againOf,
  checkPatches,
  conflictsOf,
  fieldsSet,
  inverseOf,
  keptPatch,
  mergePatches,
  patched,
  plainIssue,
  ROW_KINDS,
  ROW_SCHEMAS,
  rowIn,
  withoutConflicts,
  worldOf,
  type Conflict,
  type KeptChange,
  type KeptPatch,
  type Patch,
  type PatchProblem,
  type RowKind,
} from "#core/plan";
import { writeBytes, type PlanBytes } from "./bytes";
import type { Db, Queries } from "./db";
import { MIGRATIONS } from "./migrations";
import { neighbourhood } from "./neighbours";
import { toRecord, upsertSql } from "./rows";
import { takeTiles } from "./terrain";
import { upgraderOf } from "./upgrades";

/** Thrown for a change to a plan that is not there. */
export class NoSuchPlan extends Error {
  constructor(planId: string) {
    super(`there is no plan "${planId}"`);
    this.name = "NoSuchPlan";
  }
}

/** The channel on which every change of any plan is told, as `planId revision`. */
export const CHANGES = "tejado_changes";

/** Who makes a change: by what name, and whose undo it is. */
export interface Author {
  who: string;
  /** The first signs what is kept; undo finds what any of them signed. */
  authors: readonly [string, ...string[]];
}

/** An author of whom nothing but the name is known. */
export function signedBy(who: string): Author {
  return { who, authors: [`name:${who}`] };
}

export interface Change extends Author {
  planId: string;
  /** Made by whoever sends it, its window before the last dash; the same one twice is kept once. Empty for the server's own. */
  op?: string;
  what: string;
  reason?: string;
  patches: readonly Patch[];
  /** Base of patches that name none; the plan's revision now where left out. */
  base?: number;
  bytes?: PlanBytes;
}

/** What became of a change: kept whole, or refused whole with what stands against it. */
export type Outcome =
  | { kind: "kept"; revision: number; what: string }
  | { kind: "conflict"; revision: number; what: string; conflicts: Conflict[] }
  | { kind: "refused"; problems: PatchProblem[] }
  | { kind: "nothing"; revision: number };

/** The window that made a change, as its op names it. */
const windowOf = (op: string) => op.slice(0, Math.max(0, op.lastIndexOf("-")));

/** Holds the plan's row until the transaction ends, so that revisions follow one another. */
async function lockedRevision(tx: Queries, planId: string): Promise<number> {
  const { rows } = await tx.query<{ revision: number }>(
    "SELECT revision::float8 AS revision FROM plans WHERE id = $1 FOR UPDATE",
    [planId],
  );
  if (!rows[0]) throw new NoSuchPlan(planId);
  return rows[0].revision;
}

/** The outcome of an op that has been kept before, so that sending it twice keeps it once; null for a new one. */
async function keptAlready(tx: Queries, planId: string, op: string): Promise<Outcome | null> {
  if (op === "") return null;
  const { rows } = await tx.query<{ revision: number; what: string }>(
    "SELECT revision::float8 AS revision, what FROM history WHERE plan_id = $1 AND op = $2",
    [planId, op],
  );
  return rows[0] ? { kind: "kept", ...rows[0] } : null;
}

interface EntryRow {
  revision: number;
  op: string;
  author: string;
  who: string;
  at: Date;
  schema: number;
  patches: KeptPatch[];
}
const ENTRY = "revision::float8 AS revision, op, author, who, at, schema, patches";

async function changesSince(
  tx: Queries,
  planId: string,
  base: number,
  windowOfEntry: (entry: EntryRow) => string,
): Promise<KeptChange[]> {
  const { rows } = await tx.query<EntryRow>(
    `SELECT ${ENTRY} FROM history WHERE plan_id = $1 AND revision > $2 ORDER BY revision`,
    [planId, base],
  );
  const upgraded = upgraderOf(tx, planId);
  const changes: KeptChange[] = [];
  for (const row of rows) {
    const { revision, who, at, schema } = row;
    const patches = await upgraded(row.patches, schema);
    changes.push({ revision, who, at: new Date(at), window: windowOfEntry(row), patches });
  }
  return changes;
}

/** A patch with the values that its row was found to have once it was checked. */
function asParsed(patch: Patch, row: object): Patch {
  if (patch.put) return { ...patch, put: row } as Patch;
  const fields = fieldsSet(patch).map((field) => [field, (row as Record<string, unknown>)[field]]);
  return { ...patch, set: Object.fromEntries(fields) } as Patch;
}

/** Applies patches to the stored rows. Returns the patches that were kept, or the first row that fails its schema. */
async function writeRows(
  tx: Queries,
  planId: string,
  patches: readonly Patch[],
  rowNow: (kind: RowKind, id: string) => object | null,
): Promise<KeptPatch[] | { problems: PatchProblem[] }> {
  const kept: KeptPatch[] = [];
  const put = new Map<RowKind, Record<string, unknown>[]>();
  const removed = new Map<RowKind, string[]>();
  const listed = <T>(lists: Map<RowKind, T[]>, kind: RowKind) => {
    if (!lists.has(kind)) lists.set(kind, []);
    return lists.get(kind)!;
  };
  for (const patch of patches) {
    const { kind, id } = patch;
    const row = rowNow(kind, id);
    if (!keptPatch(row, patch)) continue;
    const after = patched(row, patch);
    let clean = patch;
    if (!after) listed(removed, kind).push(id);
    else {
      const parsed = ROW_SCHEMAS[kind].safeParse(after);
      if (!parsed.success) {
        const issue = parsed.error.issues[0]!;
        const field = issue.path.join(".");
        return { problems: [{ kind, id, field, message: plainIssue(issue), isUnknown: true }] };
      }
      listed(put, kind).push(toRecord(kind, parsed.data));
      clean = asParsed(patch, parsed.data);
    }
    // The record holds what the rows hold: a name without the blanks around it.
    const one = keptPatch(row, clean);
    if (one) kept.push(one);
  }
  for (const kind of ROW_KINDS) if (put.has(kind)) await tx.query(upsertSql(kind), [JSON.stringify(put.get(kind))]);
  for (const kind of [...ROW_KINDS].reverse()) {
    if (!removed.has(kind)) continue;
    if (kind === "plans") throw new RangeError("a plan is not removed by a change to it");
    await tx.query(`DELETE FROM ${kind} WHERE plan_id = $1 AND id = ANY($2)`, [planId, removed.get(kind)]);
  }
  return kept;
}

interface Entry {
  planId: string;
  revision: number;
  op: string;
  author: string;
  who: string;
  what: string;
  reason: string;
  kind: "change" | "undo" | "redo";
  ofId: number | null;
  state: "inForce" | "done";
  patches: readonly KeptPatch[];
}

/** Writes the entry of a change and the plan's new revision; both stand or fall with its rows. */
export async function writeEntry(tx: Queries, entry: Entry): Promise<void> {
  const { planId, revision, op, author, who, what, reason, kind, ofId, state, patches } = entry;
  await tx.query(
    `INSERT INTO history (plan_id, revision, op, author, who, what, reason, kind, of_id, state, schema, patches)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12::jsonb)`,
    [planId, revision, op, author, who, what, reason, kind, ofId, state, MIGRATIONS.length, JSON.stringify(patches)],
  );
  await tx.query("UPDATE plans SET revision = $2 WHERE id = $1", [planId, revision]);
}

/** Merges patches into the plan inside a transaction, or says what stands against them. */
async function merged(
  tx: Queries,
  planId: string,
  patches: readonly Patch[],
  now: number,
  window: string,
  windowOfEntry: (entry: EntryRow) => string,
  leaveTheirs = false,
): Promise<KeptPatch[] | { conflicts: Conflict[] } | { problems: PatchProblem[] }> {
  const world = worldOf(await neighbourhood(tx, planId, patches));
  const rowNow = (kind: RowKind, id: string) => rowIn(world, kind, id);
  const base = patches.reduce((least, patch) => Math.min(least, patch.base ?? now), now);
  const since = base < now ? await changesSince(tx, planId, base, windowOfEntry) : [];
  const conflicts = conflictsOf(patches, rowNow, since, window);
  if (conflicts.length > 0 && !leaveTheirs) return { conflicts };
  const left = withoutConflicts(patches, conflicts);
  const problems = checkPatches(world, left);
  if (problems.length > 0) return { problems };
  return writeRows(tx, planId, left, rowNow);
}

/**
 * Merges a change into a plan in one transaction together with its entry in the record. Fields that nobody else changed
 * since the patches' bases merge; with one conflict or one problem nothing of the change is kept. Throws NoSuchPlan.
 */
export async function recordChange(db: Db, change: Change): Promise<Outcome> {
  const { planId, op = "", bytes, what, reason = "", who, authors } = change;
  const outcome = await db.transaction(async (tx): Promise<Outcome> => {
    const now = await lockedRevision(tx, planId);
    const done = await keptAlready(tx, planId, op);
    if (done) return done;
    const patches = mergePatches(
      [],
      change.patches.map((patch) => ({ ...patch, base: patch.base ?? change.base ?? now }) as Patch),
    );
    const kept = await merged(tx, planId, patches, now, windowOf(op) || "-", (entry) => windowOf(entry.op));
    if ("problems" in kept) return { kind: "refused", problems: kept.problems };
    if ("conflicts" in kept) return { kind: "conflict", revision: now, what, conflicts: kept.conflicts };
    if (kept.length === 0) return { kind: "nothing", revision: now };
    if (bytes) await writeBytes(tx, planId, bytes);
    await takeTiles(
      tx,
      planId,
      kept.flatMap(({ kind, id }) => (kind === "layers" ? [id] : [])),
    );
    const [author] = authors;
    // A new change ends what could have been put back.
    await tx.query("UPDATE history SET state = 'done' WHERE plan_id = $1 AND author = ANY($2) AND state = 'undone'", [
      planId,
      authors,
    ]);
    const revision = now + 1;
    await writeEntry(tx, {
      ...{ planId, revision, op, author, who, what, reason, patches: kept },
      ...{ kind: "change", ofId: null, state: "inForce" },
    });
    return { kind: "kept", revision, what };
  });
  await tell(db, planId, outcome);
  return outcome;
}

/** Tells every process what has been kept. The change stands whether or not anybody hears of it. */
async function tell(db: Db, planId: string, outcome: Outcome): Promise<void> {
  if (outcome.kind === "kept") await db.notify(CHANGES, `${planId} ${outcome.revision}`).catch(() => undefined);
}

export interface Step extends Author {
  planId: string;
  op?: string;
  way: "undo" | "redo";
  /** Takes back what nobody else has changed since and leaves the rest as others made it. */
  leaveTheirs?: boolean;
}

/**
 * Takes back the newest change in force of one author, or puts back the one that they took back last. What somebody else has
 * changed since is a conflict like any other. Null when there is nothing to step over.
 */
export async function stepRecord(db: Db, step: Step): Promise<Outcome | null> {
  const { planId, op = "", way, authors, who, leaveTheirs = false } = step;
  const outcome = await db.transaction(async (tx): Promise<Outcome | null> => {
    const now = await lockedRevision(tx, planId);
    const done = await keptAlready(tx, planId, op);
    if (done) return done;
    const [state, order] = way === "undo" ? ["inForce", "DESC"] : ["undone", "ASC"];
    const { rows } = await tx.query<EntryRow & { id: number; what: string; since: number }>(
      // What was put back or taken back stands as of then, not as of when it was first made.
      `SELECT id::float8 AS id, what, ${ENTRY},
         greatest(revision, coalesce((SELECT max(s.revision) FROM history s WHERE s.of_id = history.id), 0))::float8 AS since
       FROM history WHERE plan_id = $1 AND author = ANY($2) AND state = $3 AND kind = 'change'
       ORDER BY revision ${order} LIMIT 1`,
      [planId, authors, state],
    );
    const entry = rows[0];
    if (!entry) return null;
    const was = await upgraderOf(tx, planId)(entry.patches, entry.schema);
    const patches = way === "undo" ? inverseOf(was, entry.since) : againOf(was, entry.since);
    const mine = (other: EntryRow) => (authors.includes(other.author) ? "mine" : other.author);
    const kept = await merged(tx, planId, patches, now, "mine", mine, leaveTheirs);
    const { what } = entry;
    if ("problems" in kept) return { kind: "refused", problems: kept.problems };
    if ("conflicts" in kept) return { kind: "conflict", revision: now, what, conflicts: kept.conflicts };
    await tx.query("UPDATE history SET state = $2 WHERE id = $1", [entry.id, way === "undo" ? "undone" : "inForce"]);
    const revision = now + 1;
    const [author] = authors;
    await writeEntry(tx, {
      ...{ planId, revision, op, author, who, what, reason: "", patches: kept },
      ...{ kind: way, ofId: entry.id, state: "done" },
    });
    return { kind: "kept", revision, what };
  });
  if (outcome) await tell(db, planId, outcome);
  return outcome;
}

/** What undo and redo would act on for an author, by its label; null where there is nothing. */
export async function stepsOf(
  db: Queries,
  planId: string,
  authors: readonly string[],
): Promise<{ undo: string | null; redo: string | null }> {
  const { rows } = await db.query<{ undo: string | null; redo: string | null }>(
    `SELECT
       (SELECT what FROM history WHERE plan_id = $1 AND author = ANY($2) AND kind = 'change' AND state = 'inForce' ORDER BY revision DESC LIMIT 1) AS undo,
       (SELECT what FROM history WHERE plan_id = $1 AND author = ANY($2) AND kind = 'change' AND state = 'undone' ORDER BY revision LIMIT 1) AS redo`,
    [planId, authors],
  );
  return rows[0]!;
}

/** More changes than this are not followed one by one: the plan is read anew. */
const MOST_FOLLOWED = 500;

/**
 * The patches that lead from a revision of a plan to the newest one, in order. Null where the plan is not there, is older, or
 * has changed too often since.
 */
export async function patchesSince(
  db: Db,
  planId: string,
  from: number,
): Promise<{ patches: Patch[]; revision: number; createdAt: string } | null> {
  return db.snapshot(async (tx) => {
    const { rows: plans } = await tx.query<{ revision: number; created_at: string }>(
      "SELECT revision::float8 AS revision, created_at FROM plans WHERE id = $1",
      [planId],
    );
    const [plan] = plans;
    if (!plan || plan.revision < from || plan.revision - from > MOST_FOLLOWED) return null;
    const changes = await changesSince(tx, planId, from, () => "");
    const patches = changes.flatMap((change) => againOf(change.patches, change.revision));
    return { patches, revision: plan.revision, createdAt: plan.created_at };
  });
}

/** Names the state of a plan's rows: which plan of that id it is, and its revision. Null when there is no such plan. */
export async function planStamp(db: Queries, planId: string): Promise<string | null> {
  const { rows } = await db.query<{ stamp: string }>(
    "SELECT created_at || ' ' || revision AS stamp FROM plans WHERE id = $1",
    [planId],
  );
  return rows[0]?.stamp ?? null;
}
