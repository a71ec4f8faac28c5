import { whoAsks } from "#accounts";
import { fieldNoteSchema } from "#core/crews";
import { plainIssue } from "#core/plan";
import { AudioError, audioType } from "#formats/audio";
import { readJson } from "#formats/text";
import { addFieldNotes, writeVoice } from "#store";
import { jobsSeen, requireSeen } from "../access/ownJobs.server";
import { formOf } from "../requests/asked.server";
import { requirePlan } from "../requests/plan.server";
import { requireWriter } from "../crew/writer.server";
import type { Route } from "./+types/fieldVoices";

/** Bytes of one recording: two minutes take 0.4 MB as they are asked for, 2 MB on a phone that records at 128 kbit/s. */
const MOST_BYTES = 4 * 1024 * 1024;

/** Takes what a crew spoke: the recording, and as JSON the note that it belongs to. Sent twice, it is kept once. */
export async function action({ params: { planId }, request }: Route.ActionArgs) {
  requireWriter(request);
  const { store, world } = await requirePlan(planId);
  const form = await formOf(request);
  const file = form.get("file");
  const refuse = (message: string) => Response.json({ ok: false, message }, { status: 400 });
  if (!(file instanceof File) || file.size === 0) return refuse("There is no recording in what arrived.");
  if (file.size > MOST_BYTES) return refuse(`The recording has ${file.size} bytes; at most ${MOST_BYTES} are kept.`);
  const { value, problem } = readJson(String(form.get("note")));
  if (problem) return refuse(`The note of the recording ${problem}.`);
  const parsed = fieldNoteSchema.safeParse(value);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return refuse(`The recording’s ${issue!.path.join(".")} ${plainIssue(issue!)}.`);
  }
  const note = parsed.data;
  if (note.kind !== "voice") return refuse(`The recording’s kind must be "voice", found "${note.kind}".`);
  const visit = world.visits.get(note.visitId);
  if (!visit) return refuse("This job is not in the plan any more; what was spoken is still on this phone.");
  requireSeen((await jobsSeen(store, world)).job(visit));
  const bytes = new Uint8Array(await file.arrayBuffer());
  try {
    audioType(bytes);
  } catch (error) {
    if (error instanceof AudioError) return refuse(`${file.name}: ${error.told}`);
    throw error;
  }
  await store.db.transaction(async (tx) => {
    await addFieldNotes(tx, planId, [{ ...note, by: whoAsks()?.name ?? note.by }]);
    await writeVoice(tx, planId, note.id, bytes);
  });
  return Response.json({ ok: true, message: "" });
}
