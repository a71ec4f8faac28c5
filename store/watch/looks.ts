import { promisify } from "node:util";
import { gunzip, gzip } from "node:zlib";
import type { Db, Queries } from "../db";

const [pack, unpack] = [promisify(gzip), promisify(gunzip)];

/** Keeps what a look came to instead of what was kept of the last one. Its parts are what whoever writes them made of them, each as JSON. */
export async function putLook(db: Db, planId: string, parts: readonly unknown[]): Promise<void> {
  const packed: Uint8Array[] = [];
  for (const part of parts) packed.push(await pack(JSON.stringify(part)));
  await db.transaction(async (tx) => {
    await dropLook(tx, planId);
    for (const [part, bytes] of packed.entries())
      await tx.query("INSERT INTO watch_looks (plan_id, part, packed) VALUES ($1, $2, $3)", [planId, part, bytes]);
    await tx.query(
      `INSERT INTO watch_plans (plan_id, settings) VALUES ($1, '{}')
       ON CONFLICT (plan_id) DO UPDATE SET changed = nextval('beside_changes')`,
      [planId],
    );
  });
}

/** The parts of what the last look came to; none where nobody looked yet. */
export async function readLook(db: Queries, planId: string): Promise<unknown[]> {
  const { rows } = await db.query<{ packed: Uint8Array }>(
    "SELECT packed FROM watch_looks WHERE plan_id = $1 ORDER BY part",
    [planId],
  );
  const parts: unknown[] = [];
  for (const { packed } of rows) parts.push(JSON.parse((await unpack(packed)).toString("utf8")));
  return parts;
}

/** Whether anybody looked yet. */
export async function isLookedAt(db: Queries, planId: string): Promise<boolean> {
  const { rows } = await db.query("SELECT 1 FROM watch_looks WHERE plan_id = $1 LIMIT 1", [planId]);
  return rows.length > 0;
}

export async function dropLook(db: Queries, planId: string): Promise<void> {
  await db.query("DELETE FROM watch_looks WHERE plan_id = $1", [planId]);
}
