import type { StagingNote } from "#core/staging";
import type { Queries } from "./db";

/** Everything that was noted on the bench of one plan's radios. */
export async function readStaging(db: Queries, planId: string): Promise<StagingNote[]> {
  const { rows } = await db.query<{ note: StagingNote }>(
    "SELECT note FROM staging WHERE plan_id = $1 ORDER BY radio_id",
    [planId],
  );
  return rows.map(({ note }) => note);
}

/** Notes of one radio; null where nobody has had it on the bench. */
export async function readStagingNote(db: Queries, planId: string, radioId: string): Promise<StagingNote | null> {
  const { rows } = await db.query<{ note: StagingNote }>(
    "SELECT note FROM staging WHERE plan_id = $1 AND radio_id = $2 FOR UPDATE",
    [planId, radioId],
  );
  return rows[0]?.note ?? null;
}

export async function writeStaging(db: Queries, planId: string, note: StagingNote): Promise<void> {
  await db.query(
    "INSERT INTO staging (plan_id, radio_id, note) VALUES ($1, $2, $3) ON CONFLICT (plan_id, radio_id) DO UPDATE SET note = EXCLUDED.note, changed = EXCLUDED.changed",
    [planId, note.radioId, JSON.stringify(note)],
  );
}

/** Forgets what was noted of one radio: another device takes its place. */
export async function dropStaging(db: Queries, planId: string, radioId: string): Promise<void> {
  await db.query("DELETE FROM staging WHERE plan_id = $1 AND radio_id = $2", [planId, radioId]);
}
