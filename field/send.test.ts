import "fake-indexeddb/auto";
import { afterEach, expect, test } from "@jest/globals";
import type { FieldAccount, FieldPack } from "#wire";
import { dropEntry, keepPack, readEntries, readPack, writeEntries, type Entry } from "./keep";
import { sendWaiting } from "./send";

const CRU: FieldAccount = { id: "acc-cru", name: "Cru" };
const PIA: FieldAccount = { id: "acc-pia", name: "Pia" };

const pack = (planId: string): FieldPack =>
  ({
    format: 4,
    planId,
    planName: planId,
    visit: { id: `job-${planId}` },
    notes: [],
    ends: null,
  }) as unknown as FieldPack;
let count = 0;
const entry = (planId: string, writer: FieldAccount | null, more: Partial<Entry> = {}): Entry => {
  const id = `entry-${String(++count).padStart(4, "0")}`;
  const note = { id, visitId: `job-${planId}`, kind: "message", text: id } as never;
  return {
    ...{ id, planId, visitId: `job-${planId}`, at: `2026-12-01T08:00:${String(count % 60).padStart(2, "0")}Z` },
    ...{ op: { id, note }, photo: null, writer, state: "waiting", message: "", theirs: null, revision: 0 },
    ...more,
  };
};

interface Desk {
  signedIn: FieldAccount | null;
  /** Status with which a plan answers; 200 where it is not here. */
  plans: Record<string, number | "noSignal">;
  /** What becomes of pictures and recordings; they are kept where left out. */
  files?: { ok: boolean; message: string };
  /** What becomes of an entry; it is kept where left out. */
  answer?: (id: string) => object;
  notes?: object[];
}
/** What the desk was sent: `plan writer ids`. */
let sent: string[] = [];
/** Stands in for the desk as its routes answer: a refusal of a plan is text, what concerns who wrote is JSON. */
function answering({ signedIn, plans, files = { ok: true, message: "" }, answer, notes = [] }: Desk): void {
  sent = [];
  globalThis.fetch = (async (url: string, init: RequestInit) => {
    const [, , planId, to, voices] = url.split("/") as [string, string, string, string, string?];
    const status = plans[planId] ?? 200;
    if (status === "noSignal") throw new TypeError("fetch failed");
    if (status !== 200) return new Response("refused", { status, headers: { "content-type": "text/plain" } });
    const writer = new Headers(init.headers).get("x-tejado-writer");
    if (writer && signedIn && writer !== signedIn.id)
      return Response.json({ ok: false, message: "", account: signedIn }, { status: 409 });
    if (to === "photos" || voices) {
      sent.push(`${planId} ${writer} a ${voices ? "recording" : "photograph"}`);
      return Response.json(files, { status: files.ok ? 200 : 400 });
    }
    const { ops } = JSON.parse(init.body as string) as { ops: { id: string }[] };
    if (ops.length > 0) sent.push(`${planId} ${writer} ${ops.map(({ id }) => id).join(" ")}`);
    const answers = ops.map(({ id }) => ({ id, kind: "kept", ...answer?.(id) }));
    return Response.json({ answers, notes, account: signedIn });
  }) as typeof fetch;
}
const states = async () => Object.fromEntries((await readEntries()).map(({ id, state }) => [id, state]));

afterEach(async () => {
  for (const { id } of await readEntries()) await dropEntry(id);
});

test("a plan that is refused, whichever, holds up no other: what it does not take stays as it is, with why", async () => {
  for (const planId of ["gone", "looked-at", "good"]) await keepPack(pack(planId));
  const entries = ["gone", "looked-at", "good"].map((planId) => entry(planId, CRU));
  await writeEntries(entries);
  answering({ signedIn: CRU, plans: { gone: 404, "looked-at": 403 } });
  const round = await sendWaiting();
  expect(round).toEqual({
    way: "open",
    account: CRU,
    refusals: {
      gone: "You are not in this plan any more, or it is gone.",
      "looked-at": "Your role in this plan does not let you write.",
    },
  });
  const [gone, lookedAt, good] = entries.map(({ id }) => id);
  expect(await states()).toEqual({ [gone!]: "waiting", [lookedAt!]: "waiting", [good!]: "kept" });
  // Once the owner has put it right, it goes.
  answering({ signedIn: CRU, plans: {} });
  expect((await sendWaiting()).refusals).toEqual({});
  expect(Object.values(await states())).toEqual(["kept", "kept", "kept"]);
});

test("no signal for one plan is no refusal, and whoever is not signed in is told so", async () => {
  for (const planId of ["gone", "good"]) await keepPack(pack(planId));
  await writeEntries([entry("gone", CRU), entry("good", CRU)]);
  answering({ signedIn: CRU, plans: { gone: "noSignal" } });
  expect(await sendWaiting()).toEqual({ way: "closed", account: CRU, refusals: {} });
  expect(Object.values(await states())).toEqual(["waiting", "kept"]);
  answering({ signedIn: null, plans: { gone: 401 } });
  expect((await sendWaiting()).way).toBe("signIn");
  for (const status of [429, 500, 507]) {
    answering({ signedIn: CRU, plans: { gone: status } });
    expect((await sendWaiting()).way).toBe("closed");
  }
  answering({ signedIn: CRU, plans: { gone: 413 } });
  expect((await sendWaiting()).refusals).toEqual({ gone: "The desk does not take it (413)." });
  expect(Object.values(await states())).toEqual(["waiting", "kept"]);
});

test("what one person wrote is never sent as another's: it waits, and goes when its writer signs in again", async () => {
  await keepPack(pack("good"));
  const photo = { blob: new Blob(["x"]), about: {} };
  const [first, second, picture, third, before] = [
    entry("good", CRU),
    entry("good", PIA),
    entry("good", CRU, { op: null, photo }),
    entry("good", CRU),
    entry("good", null),
  ];
  await writeEntries([first!, second!, picture!, third!, before!]);
  answering({ signedIn: PIA, plans: {} });
  expect((await sendWaiting()).account).toEqual(PIA);
  // Of before writers were written down: it goes with whoever is signed in.
  expect(sent).toEqual([`good acc-pia ${second!.id}`, `good null ${before!.id}`]);
  expect(await states()).toEqual({
    ...{ [first!.id]: "waiting", [second!.id]: "kept", [picture!.id]: "waiting" },
    ...{ [third!.id]: "waiting", [before!.id]: "kept" },
  });
  answering({ signedIn: CRU, plans: {} });
  await sendWaiting();
  expect(sent).toEqual([`good acc-cru ${first!.id} ${third!.id}`, "good acc-cru a photograph"]);
  expect(Object.values(await states())).toEqual(["kept", "kept", "kept", "kept", "kept"]);
});

test("a picture or a recording that the desk refuses stays on the phone, with why; one that it keeps frees its room", async () => {
  await keepPack(pack("good"));
  const blob = new Blob(["what was seen"]);
  const picture = entry("good", CRU, { op: null, photo: { blob, about: {} } });
  const note = { id: "voice-0001", visitId: "job-good", kind: "voice", value: 3 } as never;
  const spoken = entry("good", CRU, { op: null, voice: { blob, note } });
  await writeEntries([picture, spoken]);
  answering({ signedIn: CRU, plans: {}, files: { ok: false, message: "byte 0: a JPEG begins with ff d8" } });
  await sendWaiting();
  expect(sent).toEqual(["good acc-cru a photograph", "good acc-cru a recording"]);
  for (const one of await readEntries()) {
    expect([one.state, one.message]).toEqual(["refused", "byte 0: a JPEG begins with ff d8"]);
    expect((one.photo?.blob ?? one.voice?.blob)?.size).toBe(13);
  }
  // Refused ones are not sent again by themselves; once they wait again they go.
  await writeEntries((await readEntries()).map((one) => ({ ...one, state: "waiting" as const })));
  answering({ signedIn: CRU, plans: {} });
  await sendWaiting();
  for (const one of await readEntries()) {
    expect(one.state).toBe("kept");
    expect(one.photo).toBeNull();
    expect(one.voice?.blob ?? null).toBeNull();
  }
});

test("what the desk answers of each entry is written down: kept, refused, or whose word stands against it", async () => {
  await keepPack(pack("good"));
  const [kept, refused, conflict, silent] = [1, 2, 3, 4].map(() => entry("good", CRU));
  await writeEntries([kept!, refused!, conflict!, silent!]);
  const answers: Record<string, object> = {
    [refused!.id]: { kind: "refused", message: "This job is another crew's." },
    [conflict!.id]: { kind: "conflict", message: "Ana has changed the notes", theirs: "hers", revision: 9 },
    // What found no room is not answered.
    [silent!.id]: { id: "somebody else's" },
  };
  const said = { id: "note-9", visitId: "job-good", kind: "message", text: "from the other end" };
  answering({ signedIn: CRU, plans: {}, answer: (id) => answers[id] ?? {}, notes: [said] });
  await sendWaiting();
  const byId = new Map((await readEntries()).map((one) => [one.id, one]));
  expect(byId.get(kept!.id)).toMatchObject({ state: "kept", message: "" });
  expect(byId.get(refused!.id)).toMatchObject({ state: "refused", message: "This job is another crew's." });
  expect(byId.get(conflict!.id)).toMatchObject({ state: "conflict", theirs: "hers", revision: 9 });
  expect(byId.get(silent!.id)).toMatchObject({ state: "waiting" });
  expect((await readPack("good", "job-good"))?.notes).toEqual([said]);
});
