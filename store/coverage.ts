import type { Queries } from "./db";

/** Parts of coverages kept for each plan; the one that nobody has asked for longest goes first. */
const MOST_PARTS = 320;

/** Packed losses that were kept under a key; null where none were. */
export async function readCoverage(db: Queries, planId: string, key: string): Promise<Uint8Array | null> {
  const { rows } = await db.query<{ data: Uint8Array }>(
    "UPDATE coverage_losses SET used_at = clock_timestamp() WHERE plan_id = $1 AND key = $2 RETURNING data",
    [planId, key],
  );
  return rows[0] ? new Uint8Array(rows[0].data) : null;
}

/** Keeps packed losses under a key, and lets the plan's oldest go. */
export async function writeCoverage(
  db: Queries,
  planId: string,
  key: string,
  data: Uint8Array,
  mostParts = MOST_PARTS,
): Promise<void> {
  await db.query(
    "INSERT INTO coverage_losses (plan_id, key, data, used_at) VALUES ($1, $2, $3, clock_timestamp()) ON CONFLICT (plan_id, key) DO UPDATE SET data = EXCLUDED.data, used_at = clock_timestamp()",
    [planId, key, data],
  );
  await db.query(
    "DELETE FROM coverage_losses WHERE plan_id = $1 AND key NOT IN (SELECT key FROM coverage_losses WHERE plan_id = $1 ORDER BY used_at DESC LIMIT $2)",
    [planId, mostParts],
  );
}
