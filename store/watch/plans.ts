import type { Queries } from "../db";

/** What is kept of a plan's watch beside its series and looks. Settings are what whoever writes them made of them. */
export interface WatchRow {
  settings: unknown;
  hasToken: boolean;
  /** What came in last, by who sent it. */
  received: Record<string, unknown>;
}

const NONE = { settings: null, hasToken: false, received: {} };

export async function readWatch(db: Queries, planId: string): Promise<WatchRow> {
  const { rows } = await db.query<WatchRow>(
    `SELECT settings, token_hash IS NOT NULL AS "hasToken", received FROM watch_plans WHERE plan_id = $1`,
    [planId],
  );
  return rows[0] ?? NONE;
}

/** Plans that are watched. */
export async function watchedPlans(db: Queries): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(`SELECT plan_id AS id FROM watch_plans ORDER BY plan_id`);
  return rows.map(({ id }) => id);
}

async function put(db: Queries, planId: string, column: "settings" | "token_hash" | "received", value: unknown) {
  const isJson = column !== "token_hash";
  await db.query(
    `INSERT INTO watch_plans (plan_id, settings, ${column === "settings" ? "changed" : `${column}, changed`})
     VALUES ($1, ${column === "settings" ? "$2::jsonb" : `'{}', $2${isJson ? "::jsonb" : ""}`}, nextval('beside_changes'))
     ON CONFLICT (plan_id) DO UPDATE SET ${column} = ${column === "received" ? "watch_plans.received || " : ""}EXCLUDED.${column}, changed = EXCLUDED.changed`,
    [planId, isJson ? JSON.stringify(value) : value],
  );
}

export const putWatchSettings = (db: Queries, planId: string, settings: unknown) =>
  put(db, planId, "settings", settings);
/** What came in last from somebody, by his name; others stay. */
export const putReceived = (db: Queries, planId: string, received: unknown) => put(db, planId, "received", received);
/** Keeps a token's SHA-256, or takes it back. */
export const putToken = (db: Queries, planId: string, hash: string | null) => put(db, planId, "token_hash", hash);

/** How a plan is watched, for whoever shows its token, by the token's SHA-256; null where it is not this plan's. */
export async function settingsByToken(
  db: Queries,
  planId: string,
  hash: string,
): Promise<{ settings: unknown } | null> {
  const { rows } = await db.query<{ settings: unknown }>(
    "SELECT settings FROM watch_plans WHERE plan_id = $1 AND token_hash = $2",
    [planId, hash],
  );
  return rows[0] ?? null;
}

/** Which of some rows a plan has now. */
export async function rowsNamed(
  db: Queries,
  table: "links" | "radios",
  planId: string,
  ids: ReadonlySet<string>,
): Promise<Set<string>> {
  if (ids.size === 0) return new Set();
  const { rows } = await db.query<{ id: string }>(
    `SELECT id FROM ${table} WHERE plan_id = $1 AND id = ANY($2::text[])`,
    [planId, [...ids]],
  );
  return new Set(rows.map(({ id }) => id));
}
