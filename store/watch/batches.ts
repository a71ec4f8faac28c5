import type { Sample } from "#core/watch";
import { deflateRawSync } from "node:zlib";
import type { Queries } from "../db";
import { packBatch } from "#wire";

/** Samples that arrived together and are not laid into their series yet, packed and deflated. */
export interface Batch {
  id: number;
  packed: Uint8Array;
}

/** Keeps samples of a plan; whoever sent them is told only after this. */
export async function addBatch(db: Queries, planId: string, samples: readonly Sample[]): Promise<void> {
  if (samples.length === 0) return;
  await db.query("INSERT INTO watch_batches (plan_id, samples, packed) VALUES ($1, $2, $3)", [
    planId,
    samples.length,
    deflateRawSync(packBatch(samples), { level: 1 }),
  ]);
}

/** The oldest batches of a plan, as many as hold about so many samples; at least one where there is any. */
export async function readBatches(db: Queries, planId: string, mostSamples: number): Promise<Batch[]> {
  const { rows } = await db.query<{ id: string; packed: Uint8Array }>(
    `SELECT id::text, packed FROM (
       SELECT id, packed, sum(samples) OVER (ORDER BY id) - samples AS before FROM watch_batches WHERE plan_id = $1
     ) AS counted WHERE before < $2 ORDER BY id`,
    [planId, mostSamples],
  );
  return rows.map(({ id, packed }) => ({ id: Number(id), packed }));
}

export async function dropBatches(db: Queries, planId: string, ids: readonly number[]): Promise<void> {
  await db.query("DELETE FROM watch_batches WHERE plan_id = $1 AND id = ANY($2::bigint[])", [planId, ids]);
}
