import type { Queries } from "./db";

/** Keeps the bytes of a photograph; its row in `photos` makes it part of the plan. */
export async function writePhoto(db: Queries, planId: string, photoId: string, data: Uint8Array): Promise<void> {
  await db.query(
    "INSERT INTO photo_bytes (plan_id, photo_id, data) VALUES ($1, $2, $3) ON CONFLICT (plan_id, photo_id) DO UPDATE SET data = EXCLUDED.data",
    [planId, photoId, data],
  );
}

/** The JPEG bytes of a photograph, or null when none are kept under that id. */
export async function readPhoto(db: Queries, planId: string, photoId: string): Promise<Uint8Array | null> {
  const { rows } = await db.query<{ data: Uint8Array }>(
    "SELECT data FROM photo_bytes WHERE plan_id = $1 AND photo_id = $2",
    [planId, photoId],
  );
  return rows[0] ? new Uint8Array(rows[0].data) : null;
}
