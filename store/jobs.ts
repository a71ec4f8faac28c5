import type { Queries } from "./db";

/** Long work as it stands in the store. */
export interface JobRow {
  id: string;
  planId: string;
  kind: string;
  title: string;
  order: unknown;
  state: "waiting" | "running" | "done" | "failed" | "stopped";
  /** From 0 to 1. */
  doneShare: number;
  /** What is being done, or what came of it. */
  message: string;
  /** Where the result lies, if it is something to fetch. */
  resultUrl: string | null;
  /** How often it was begun. */
  tries: number;
  stopAsked: boolean;
}

const COLUMNS = `id, plan_id AS "planId", kind, title, work_order AS "order", state, done_share AS "doneShare", message,
  result_url AS "resultUrl", tries, stop_asked AS "stopAsked"`;

export async function putJob(
  tx: Queries,
  { id, planId, kind, title, order }: Pick<JobRow, "id" | "planId" | "kind" | "title" | "order">,
): Promise<void> {
  await tx.query("INSERT INTO jobs (id, plan_id, kind, title, work_order) VALUES ($1, $2, $3, $4, $5)", [
    id,
    planId,
    kind,
    title,
    JSON.stringify(order),
  ]);
}

export async function readJob(db: Queries, id: string): Promise<JobRow | null> {
  const { rows } = await db.query<JobRow>(`SELECT ${COLUMNS} FROM jobs WHERE id = $1`, [id]);
  return rows[0] ?? null;
}

/** The newest job of a kind that a plan has under way; null without any. */
export async function openJob(db: Queries, planId: string, kind: string): Promise<JobRow | null> {
  const { rows } = await db.query<JobRow>(
    `SELECT ${COLUMNS} FROM jobs WHERE plan_id = $1 AND kind = $2 AND state IN ('waiting', 'running') ORDER BY created_at DESC LIMIT 1`,
    [planId, kind],
  );
  return rows[0] ?? null;
}

/** The result that a job left with its plan; null where it left none. */
export async function jobResult(db: Queries, planId: string, id: string): Promise<unknown> {
  const { rows } = await db.query<{ result: unknown }>("SELECT result FROM jobs WHERE plan_id = $1 AND id = $2", [
    planId,
    id,
  ]);
  return rows[0]?.result ?? null;
}

/** A job that is begun, once more if a process died over it; null where it has ended meanwhile. */
export async function beginJob(db: Queries, id: string): Promise<JobRow | null> {
  const { rows } = await db.query<JobRow>(
    `UPDATE jobs SET state = 'running', tries = tries + 1, alive_at = now(), message = 'Starting'
     WHERE id = $1 AND state IN ('waiting', 'running') RETURNING ${COLUMNS}`,
    [id],
  );
  return rows[0] ?? null;
}

/** Takes back that a job was begun: its process ends in good order, and the next one goes on with it. */
export async function pauseJob(db: Queries, id: string): Promise<void> {
  await db.query("UPDATE jobs SET tries = tries - 1 WHERE id = $1 AND state = 'running'", [id]);
}

/** Says how a job stands, and that its process is alive. */
export async function tellJob(db: Queries, id: string, doneShare: number, message: string): Promise<void> {
  await db.query("UPDATE jobs SET done_share = $2, message = $3, alive_at = now() WHERE id = $1", [
    id,
    doneShare,
    message,
  ]);
}

export async function endJob(
  db: Queries,
  id: string,
  {
    state,
    message,
    resultUrl = null,
    result = null,
  }: { state: "done" | "failed" | "stopped"; message: string; resultUrl?: string | null; result?: unknown },
): Promise<void> {
  await db.query(
    `UPDATE jobs SET state = $2, message = $3, result_url = $4, result = $5,
       done_share = CASE WHEN $2 = 'done' THEN 1 ELSE done_share END WHERE id = $1`,
    [id, state, message, resultUrl, result === null ? null : JSON.stringify(result)],
  );
}

/** Marks a running job to be stopped by its process, and ends one that still waits. Answers whether it was either. */
export async function askToStop(db: Queries, planId: string, id: string, message: string): Promise<boolean> {
  const { rows } = await db.query(
    `UPDATE jobs SET stop_asked = true,
       message = CASE WHEN state = 'waiting' THEN $3 ELSE message END,
       state = CASE WHEN state = 'waiting' THEN 'stopped' ELSE state END
     WHERE plan_id = $1 AND id = $2 AND state IN ('waiting', 'running') RETURNING id`,
    [planId, id, message],
  );
  return rows.length > 0;
}

/** Marks jobs as alive, and gives those among them that somebody wants stopped. */
export async function keepAlive(db: Queries, ids: readonly string[]): Promise<string[]> {
  const { rows } = await db.query<{ id: string; stop: boolean }>(
    "UPDATE jobs SET alive_at = now() WHERE id = ANY($1) RETURNING id, stop_asked AS stop",
    [ids],
  );
  return rows.filter(({ stop }) => stop).map(({ id }) => id);
}

/** Jobs that run nowhere any more: whose process has said nothing for some seconds. */
export async function orphanedJobs(db: Queries, silentSeconds: number): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    "SELECT id FROM jobs WHERE state = 'running' AND alive_at <= now() - make_interval(secs => $1)",
    [silentSeconds],
  );
  return rows.map(({ id }) => id);
}

/** Ends all that is under way: what a restored database says of it is of another time. */
export async function endAllJobs(db: Queries, message: string): Promise<void> {
  await db.query("UPDATE jobs SET state = 'stopped', message = $1 WHERE state IN ('waiting', 'running')", [message]);
}

/** Forgets jobs that ended long ago. */
export async function dropOldJobs(db: Queries, days: number): Promise<void> {
  await db.query(
    "DELETE FROM jobs WHERE state NOT IN ('waiting', 'running') AND created_at < now() - make_interval(days => $1)",
    [days],
  );
}
