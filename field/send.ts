import type { FieldNote } from "#core/crews";
import { PACK_FORMAT, WRITER_HEADER, type FieldAccount, type FieldAnswer } from "#wire";
import { withKept } from "./asWritten";
import { fetchPack } from "./fetchPack";
import { keepPack, readEntries, readPacks, writeEntries, type Entry } from "./keep";

/** Entries that are sent at once: what breaks off is sent again, so less is lost of a bad minute. */
const BATCH = 50;

/** How the way to the desk stands. */
export type Way = "open" | "closed" | "signIn";

/** What a round of sending came to. */
export interface Round {
  way: Way;
  /** Who is signed in on this phone; null where nobody signs in, undefined where no answer said. */
  account: FieldAccount | null | undefined;
  /** Why the desk takes nothing of a plan, by the plan's id: its entries stay here. */
  refusals: Record<string, string>;
}

/** The desk takes nothing of this plan from whoever is signed in. */
class PlanRefused extends Error {}
/** Nobody is signed in. */
class SignInFirst extends Error {}

const REFUSALS: Record<number, string> = {
  403: "Your role in this plan does not let you write.",
  404: "You are not in this plan any more, or it is gone.",
};

/**
 * Sends what waits, plan by plan, in the order in which it was written, and takes in what the other ends have written. Whatever is not
 * answered stays as it is and is sent again: the desk keeps each entry once, by its id. A plan that is refused holds up no other.
 */
export async function sendWaiting(): Promise<Round> {
  const packs = await readPacks();
  const waiting = (await readEntries()).filter(({ state }) => state === "waiting");
  const planIds = new Set([...packs.map(({ planId }) => planId), ...waiting.map(({ planId }) => planId)]);
  const round: Round = { way: "open", account: undefined, refusals: {} };
  for (const planId of planIds) {
    const mine = waiting.filter((entry) => entry.planId === planId);
    const watch = packs.filter((pack) => pack.planId === planId).map(({ visit }) => visit.id);
    try {
      await sendPlan(planId, mine, watch, round);
    } catch (error) {
      if (error instanceof SignInFirst) return { ...round, way: "signIn" };
      if (error instanceof PlanRefused) round.refusals[planId] = error.message;
      else round.way = "closed";
    }
  }
  if (round.way === "closed") return round;
  // Everything that was written is at the desk: what an earlier Tejado gave may go.
  for (const { planId, visit, format } of packs)
    if (format !== PACK_FORMAT && !(planId in round.refusals)) await fetchPack(planId, visit.id);
  return round;
}

async function sendPlan(planId: string, mine: readonly Entry[], watch: string[], round: Round): Promise<void> {
  const texts = mine.filter(({ op }) => op !== null);
  let hasHeard = false;
  for (const batch of batchesOf(texts)) {
    const answered = await ask(planId, writerOf(batch[0]!), { ops: batch.map(({ op }) => op), watch }, round);
    if (!answered) continue;
    hasHeard = true;
    await take(batch, answered.answers);
    await takeNotes(planId, answered.notes);
  }
  // Nothing to send, or nothing of whoever is signed in: the others are heard all the same.
  if (!hasHeard) await takeNotes(planId, (await ask(planId, null, { ops: [], watch }, round))!.notes);
  for (const entry of mine) {
    if (entry.photo) await sendPhoto(entry, entry.photo, round);
    if (entry.voice?.blob) await sendVoice(entry, entry.voice.note, entry.voice.blob, round);
  }
}

const writerOf = ({ writer }: Entry): string | null => writer?.id ?? null;

/** Entries in their order, cut wherever another person wrote on. */
function batchesOf(entries: readonly Entry[]): Entry[][] {
  const batches: Entry[][] = [];
  for (const entry of entries) {
    const last = batches.at(-1);
    if (last && last.length < BATCH && writerOf(last[0]!) === writerOf(entry)) last.push(entry);
    else batches.push([entry]);
  }
  return batches;
}

/** Whether an entry waits for somebody else than whoever is signed in to send it. */
export const isOthers = ({ writer }: Pick<Entry, "writer">, account: FieldAccount | null | undefined): boolean =>
  Boolean(writer && account && writer.id !== account.id);

/** Sends something as its writer's; null where somebody else is signed in. Throws where the plan, or the way to it, is closed. */
async function post(
  url: string,
  writer: string | null,
  init: { body: BodyInit; headers?: Record<string, string> },
  round: Round,
): Promise<Response | null> {
  const { account } = round;
  if (writer !== null && account && account.id !== writer) return null;
  const headers = { ...init.headers, ...(writer !== null && { [WRITER_HEADER]: writer }) };
  const response = await fetch(url, { method: "POST", body: init.body, headers });
  const { status } = response;
  if (status === 401) throw new SignInFirst();
  if (status === 409) {
    const told = (await response
      .clone()
      .json()
      .catch(() => null)) as { account?: FieldAccount } | null;
    if (told?.account) {
      round.account = told.account;
      return null;
    }
  }
  if (status === 429 || status >= 500) throw new Error(`the desk answered with ${status}`);
  // What the desk says of one entry comes as JSON; any other refusal is of the plan.
  const isJson = (response.headers.get("content-type") ?? "").includes("application/json");
  if (!response.ok && (REFUSALS[status] !== undefined || !isJson))
    throw new PlanRefused(REFUSALS[status] ?? `The desk does not take it (${status}).`);
  return response;
}

interface Told {
  answers: FieldAnswer[];
  notes: FieldNote[];
  account?: FieldAccount | null;
}

async function ask(planId: string, writer: string | null, body: object, round: Round): Promise<Told | null> {
  const url = `/plans/${encodeURIComponent(planId)}/field`;
  const headers = { "content-type": "application/json" };
  const response = await post(url, writer, { body: JSON.stringify(body), headers }, round);
  if (!response) return null;
  const told = (await response.json()) as Told;
  round.account = told.account ?? null;
  return told;
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

async function sendPhoto(entry: Entry, { blob, about }: NonNullable<Entry["photo"]>, round: Round): Promise<void> {
  const form = new FormData();
  form.set("id", entry.id);
  form.set("about", JSON.stringify(about));
  form.set("file", blob, "photograph.jpg");
  const answer = await sendForm(entry, "photos", form, round);
  // Kept pictures need no room on the phone any more.
  if (answer) await writeEntries([{ ...entry, ...answer, photo: answer.state === "kept" ? null : entry.photo }]);
}

async function sendVoice(entry: Entry, note: FieldNote, blob: Blob, round: Round): Promise<void> {
  const form = new FormData();
  form.set("note", JSON.stringify(note));
  form.set("file", blob, "recording");
  const answer = await sendForm(entry, "field/voices", form, round);
  if (answer)
    await writeEntries([{ ...entry, ...answer, voice: { note, blob: answer.state === "kept" ? null : blob } }]);
}

/** What became of a picture or a recording; null where it waits for its writer. */
async function sendForm(
  entry: Entry,
  to: string,
  body: FormData,
  round: Round,
): Promise<Pick<Entry, "state" | "message"> | null> {
  const url = `/plans/${encodeURIComponent(entry.planId)}/${to}`;
  const response = await post(url, writerOf(entry), { body }, round);
  if (!response) return null;
  const { ok, message } = (await response.json()) as { ok: boolean; message: string };
  return { state: ok ? "kept" : "refused", message };
}
