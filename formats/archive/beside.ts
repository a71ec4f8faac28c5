import type { Stock } from "#core/bill";
import { fieldNoteSchema, type FieldNote } from "#core/crews";
import { STAGING_STEPS, type StagingNote } from "#core/staging";
import { z } from "zod";
import { ArchiveError } from "./error";
import { json, said, type ArchiveFiles } from "./parsing";

/** What lies beside a plan's record: what was done on the bench, what was bought, and what crews wrote down. Secrets are in no archive. */
export interface Beside {
  staging: StagingNote[];
  stock: Stock[];
  fieldNotes: FieldNote[];
}

/** Where an archive holds what was spoken, each recording under the id of its note. */
export const VOICES = "voices/";
export const voiceFile = (noteId: string): string => `${VOICES}${noteId}`;

const count = z.number().min(0).max(1_000_000);
const text = z.string().max(4000);
const noteSchema = z.object({
  radioId: z.string().min(1).max(64),
  practiceRun: z.string().max(64).nullable(),
  serial: z.string().max(200),
  done: z.partialRecord(
    z.enum(STAGING_STEPS),
    z.object({ at: z.string().max(40), who: z.string().max(200), note: text }),
  ),
  problem: text,
  found: z.record(z.string().max(60), z.union([text, z.number(), z.null()])).nullable(),
  foundFirmware: z.string().max(60),
});
const stockSchema = z.object({
  itemId: z.string().min(1).max(64),
  ...{ inStore: count, ordered: count, arrived: count, packed: count },
});

const FILES = {
  staging: z.array(noteSchema),
  stock: z.array(stockSchema),
  fieldNotes: z.array(fieldNoteSchema),
} as const;

/** The lists as files of an archive; a list of nothing is no file. */
export function besideFiles(beside: Beside): [name: string, bytes: Uint8Array][] {
  return (["staging", "stock", "fieldNotes"] as const).flatMap((list): [string, Uint8Array][] => {
    const lines = beside[list].map((one) => JSON.stringify(one));
    if (lines.length === 0) return [];
    return [[`${list}.json`, new TextEncoder().encode(`[\n${lines.join(",\n")}\n]\n`)]];
  });
}

/** Reads what `besideFiles` wrote; archives of before have fewer. Throws ArchiveError naming file, place and field. */
export function readBesideFiles(files: ArchiveFiles): Beside {
  const read = (list: keyof Beside): unknown[] => {
    const name = `${list}.json`;
    if (!files.has(name)) return [];
    const parsed = FILES[list].safeParse(json(files, name));
    if (!parsed.success) throw new ArchiveError(`${name}: ${said(parsed.error)}`);
    return parsed.data;
  };
  return {
    staging: read("staging") as StagingNote[],
    stock: read("stock") as Stock[],
    fieldNotes: read("fieldNotes") as FieldNote[],
  };
}
