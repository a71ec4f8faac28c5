import type { FieldNote } from "#core/crews";
import type { FieldAccount, FieldOp, FieldPack } from "#wire";
import { dropTyped } from "./typed";
import { openDB, type DBSchema, type IDBPDatabase } from "idb";

/** What became of an entry: it waits for signal, is kept, or somebody has to decide. */
export interface Entry {
  id: string;
  planId: string;
  visitId: string;
  /** When it was written; they are sent in this order. */
  at: string;
  op: FieldOp | null;
  photo: { blob: Blob; about: Record<string, unknown> } | null;
  /** What was spoken, until it is at the desk, and its note; entries of before have none. */
  voice?: { blob: Blob | null; note: FieldNote } | null;
  /** Whose account was signed in when it was written: it is sent as that person's, or waits. Entries of before, and of a Tejado without accounts, have none. */
  writer?: FieldAccount | null;
  state: "waiting" | "kept" | "conflict" | "refused";
  message: string;
  /** What stands there instead, and the revision that says so, where there is a conflict. */
  theirs: unknown;
  revision: number;
}

interface FieldDb extends DBSchema {
  packs: { key: string; value: FieldPack };
  entries: { key: string; value: Entry; indexes: { state: string } };
  settings: { key: string; value: string };
}

let opened: Promise<IDBPDatabase<FieldDb>> | undefined;
const db = () =>
  (opened ??= openDB<FieldDb>("tejado-field", 1, {
    upgrade(made) {
      made.createObjectStore("packs");
      made.createObjectStore("entries", { keyPath: "id" }).createIndex("state", "state");
      made.createObjectStore("settings");
    },
  }));

export const packKey = (planId: string, visitId: string): string => `${planId}/${visitId}`;

export async function keepPack(pack: FieldPack): Promise<void> {
  await (await db()).put("packs", pack, packKey(pack.planId, pack.visit.id));
}
export const readPack = async (planId: string, visitId: string) => (await db()).get("packs", packKey(planId, visitId));
export const readPacks = async (): Promise<FieldPack[]> => (await db()).getAll("packs");
/** Takes a job off the phone, with what was written on it and is kept at the desk. */
export async function dropPack(planId: string, visitId: string): Promise<void> {
  const held = await db();
  await held.delete("packs", packKey(planId, visitId));
  for (const entry of await held.getAll("entries"))
    if (entry.planId === planId && entry.visitId === visitId && entry.state === "kept")
      await held.delete("entries", entry.id);
  dropTyped(planId, visitId);
}

export const readEntries = async (): Promise<Entry[]> =>
  (await (await db()).getAll("entries")).sort((x, y) =>
    x.at === y.at ? (x.id < y.id ? -1 : 1) : x.at < y.at ? -1 : 1,
  );

/** Writes entries down before anything else happens; what this has answered survives a dead battery. */
export async function writeEntries(entries: readonly Entry[]): Promise<void> {
  const tx = (await db()).transaction("entries", "readwrite", { durability: "strict" });
  await Promise.all([...entries.map((entry) => tx.store.put(entry)), tx.done]);
}
export const dropEntry = async (id: string): Promise<void> => (await db()).delete("entries", id);

export const readSetting = async (name: string): Promise<string> => (await (await db()).get("settings", name)) ?? "";
export const writeSetting = async (name: string, value: string): Promise<void> =>
  void (await (await db()).put("settings", value, name));

/** Everything that was noted of a job: what the plan has, and what this phone has written since. */
export function notesOf(pack: FieldPack, entries: readonly Entry[]): FieldNote[] {
  const notes = new Map(pack.notes.map((note) => [note.id, note]));
  for (const { op, voice, visitId } of entries) {
    const note = voice?.note ?? (op && "note" in op ? op.note : null);
    if (note && visitId === pack.visit.id) notes.set(note.id, note);
  }
  return [...notes.values()];
}
