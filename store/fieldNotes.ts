import { fieldNoteSchema, type FieldNote } from "#core/crews";
import type { Queries } from "./db";

/** What crews wrote down of some jobs, or of all of a plan's, in the order in which it came. */
export async function readFieldNotes(
  db: Queries,
  planId: string,
  visitIds: readonly string[] | null = null,
): Promise<FieldNote[]> {
  const { rows } = await db.query<{ note: unknown }>(
    "SELECT note FROM field_notes WHERE plan_id = $1 AND ($2::text[] IS NULL OR visit_id = ANY($2)) ORDER BY changed",
    [planId, visitIds],
  );
  return rows.map(({ note }) => fieldNoteSchema.parse(note));
}

/** Keeps what was spoken with its note; the first recording of a note stays. */
export async function writeVoice(db: Queries, planId: string, noteId: string, bytes: Uint8Array): Promise<void> {
  await db.query("UPDATE field_notes SET voice = $3 WHERE plan_id = $1 AND id = $2 AND voice IS NULL", [
    planId,
    noteId,
    bytes,
  ]);
}

/** What was spoken, and on which job; null where there is no recording of that note. */
export async function readVoice(
  db: Queries,
  planId: string,
  noteId: string,
): Promise<{ visitId: string; bytes: Uint8Array } | null> {
  const { rows } = await db.query<{ visit_id: string; voice: Uint8Array }>(
    "SELECT visit_id, voice FROM field_notes WHERE plan_id = $1 AND id = $2 AND voice IS NOT NULL",
    [planId, noteId],
  );
  return rows[0] ? { visitId: rows[0].visit_id, bytes: new Uint8Array(rows[0].voice) } : null;
}

/** Adds notes; one whose id is there already stays as it is. */
export async function addFieldNotes(db: Queries, planId: string, notes: readonly FieldNote[]): Promise<void> {
  if (notes.length === 0) return;
  await db.query(
    `INSERT INTO field_notes (plan_id, id, visit_id, note)
     SELECT $1, note->>'id', note->>'visitId', note FROM jsonb_array_elements($2::jsonb) AS note
     ON CONFLICT (plan_id, id) DO NOTHING`,
    [planId, JSON.stringify(notes)],
  );
}
