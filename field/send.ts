import type { FieldNote } from "#core/crews";
import { PACK_FORMAT, type FieldAnswer } from "#wire";
import { withKept } from "./asWritten";
import { fetchPack } from "./fetchPack";
import { keepPack, readEntries, readPacks, writeEntries, type Entry } from "./keep";

/** Entries that are sent at once: what breaks off is sent again, so less is lost of a bad minute. */
const BATCH = 50;

/** How the way to the desk stands. */
export type Way = "open" | "closed" | "signIn";

/**
 * Sends what waits, in the order in which it was written, and takes in what the other ends have written. Whatever is not answered
 * stays as it is and is sent again: the desk keeps each entry once, by its id.
 */
export async function sendWaiting(): Promise<Way> {
  const packs = await readPacks();
  const waiting = (await readEntries()).filter(({ state }) => state === "waiting");
  const planIds = new Set([...packs.map(({ planId }) => planId), ...waiting.map(({ planId }) => planId)]);
  try {
    for (const planId of planIds) {
      const mine = waiting.filter((entry) => entry.planId === planId);
      const watch = packs.filter((pack) => pack.planId === planId).map(({ visit }) => visit.id);
      const texts = mine.filter(({ op }) => op !== null);
      for (let from = 0; from === 0 || from < texts.length; from += BATCH) {
        const batch = texts.slice(from, from + BATCH);
        const answered = await ask(planId, { ops: batch.map(({ op }) => op), watch });
        if (answered === "signIn") return "signIn";
        await take(batch, answered.answers);
        await takeNotes(planId, answered.notes);
      }
      for (const entry of mine) {
        if (entry.photo) await sendPhoto(entry, entry.photo);
        if (entry.voice?.blob) await sendVoice(entry, entry.voice.note, entry.voice.blob);
      }
    }
    // Everything that was written is at the desk: what an earlier Tejado gave may go.
    for (const { planId, visit, format } of packs) if (format !== PACK_FORMAT) await fetchPack(planId, visit.id);
    return "open";
  } catch {
    return "closed";
  }
}

async function ask(planId: string, body: object): Promise<{ answers: FieldAnswer[]; notes: FieldNote[] } | "signIn"> {
  const response = await fetch(`/plans/${encodeURIComponent(planId)}/field`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
  });
  if (response.status === 401) return "signIn";
  if (!response.ok) throw new Error(`the desk answered with ${response.status}`);
  return (await response.json()) as { answers: FieldAnswer[]; notes: FieldNote[] };
}

/** Writes down what became of some entries. */
async function take(batch: readonly Entry[], answers: readonly FieldAnswer[]): Promise<void> {
  const byId = new Map(answers.map((answer) => [answer.id, answer]));
  const changed = batch.flatMap((entry): Entry[] => {
    const answer = byId.get(entry.id);
    if (!answer) return [];
    if (answer.kind === "kept") return [{ ...entry, state: "kept" }];
    const { kind: state, message } = answer;
    return [
      {
        ...entry,
        state,
        message,
        ...(answer.kind === "conflict" && { theirs: answer.theirs, revision: answer.revision }),
      },
    ];
  });
  await writeEntries(changed);
  const kept = changed.filter(({ state, op }) => state === "kept" && op && "patch" in op);
  if (kept.length > 0) for (const pack of await readPacks()) await keepPack(withKept(pack, kept));
}

async function takeNotes(planId: string, notes: readonly FieldNote[]): Promise<void> {
  for (const pack of await readPacks()) {
    if (pack.planId !== planId) continue;
    const here = notes.filter(({ visitId }) => visitId === pack.visit.id);
    if (here.length !== pack.notes.length) await keepPack({ ...pack, notes: here });
  }
}

async function sendPhoto(entry: Entry, { blob, about }: NonNullable<Entry["photo"]>): Promise<void> {
  const form = new FormData();
  form.set("id", entry.id);
  form.set("about", JSON.stringify(about));
  form.set("file", blob, "photograph.jpg");
  const { ok, message } = await sendForm(entry.planId, "photos", form);
  // Kept pictures need no room on the phone any more.
  await writeEntries([{ ...entry, state: ok ? "kept" : "refused", message, photo: ok ? null : entry.photo }]);
}

async function sendVoice(entry: Entry, note: FieldNote, blob: Blob): Promise<void> {
  const form = new FormData();
  form.set("note", JSON.stringify(note));
  form.set("file", blob, "recording");
  const { ok, message } = await sendForm(entry.planId, "field/voices", form);
  const voice = { note, blob: ok ? null : blob };
  await writeEntries([{ ...entry, state: ok ? "kept" : "refused", message, voice }]);
}

async function sendForm(planId: string, to: string, body: FormData): Promise<{ ok: boolean; message: string }> {
  const response = await fetch(`/plans/${encodeURIComponent(planId)}/${to}`, { method: "POST", body });
  if (response.status >= 500 || response.status === 401) throw new Error(`the desk answered with ${response.status}`);
  return (await response.json()) as { ok: boolean; message: string };
}
