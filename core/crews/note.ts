import { z } from "zod";

/** What a crew writes down on a roof. */
const NOTE_KINDS = [
  "caution",
  "step",
  "level",
  "read",
  "message",
  "voice",
  "stopped",
  "resumed",
  "locked",
  "serial",
  "signed",
  "done",
] as const;
type NoteKind = (typeof NOTE_KINDS)[number];

export const END_SIDES = ["a", "b"] as const;
export type EndSide = (typeof END_SIDES)[number];

export const AIM_AXES = ["azimuth", "elevation"] as const;
export type AimAxis = (typeof AIM_AXES)[number];

/**
 * One thing that was written down at one end of a job. Notes are only added, never changed: what was confirmed stays confirmed, and
 * a tick that was taken back is a later note. The phone gives the id, so that a note that is sent twice is there once.
 */
export const fieldNoteSchema = z.object({
  id: z.string().regex(/^[\w-]{8,64}$/, "is no id of a note"),
  visitId: z.string().min(1).max(64),
  side: z.enum(END_SIDES),
  kind: z.enum(NOTE_KINDS),
  /** What it is about: a caution's key, a step's id, the axis of a sweep, which figure of the final reading. */
  key: z.string().max(80).default(""),
  /** In words: a message, a reason, a serial number, who signed. */
  text: z.string().max(1000).default(""),
  /** In figures: a torque in N·m, an angle in degrees with a level in dBm, the seconds of a recording. */
  value: z.number().min(-1e6).max(1e6).nullable().default(null),
  levelDbm: z.number().min(-140).max(20).nullable().default(null),
  /** Whether a tick stands or was taken back. */
  isOn: z.boolean().default(true),
  /** Who, and when by the phone's own clock. */
  by: z.string().max(120),
  at: z.iso.datetime("must be a moment such as 2026-11-27T08:00:00Z"),
});
export type FieldNote = z.infer<typeof fieldNoteSchema>;

/** The key of a message that the desk says. */
export const DESK = "desk";

/** Notes in the order in which they were written. */
export const inOrder = (notes: readonly FieldNote[]): FieldNote[] =>
  [...notes].sort((x, y) => (x.at === y.at ? (x.id < y.id ? -1 : 1) : x.at < y.at ? -1 : 1));

/** What stands ticked of one kind at one end, by its key: the last note of each says. */
export function ticked(notes: readonly FieldNote[], side: EndSide, kind: NoteKind): Map<string, FieldNote> {
  const ticks = new Map<string, FieldNote>();
  for (const note of inOrder(notes)) {
    if (note.side !== side || note.kind !== kind) continue;
    if (note.isOn) ticks.set(note.key, note);
    else ticks.delete(note.key);
  }
  return ticks;
}

/** How far an end has come, for whoever watches from the desk. */
export interface EndProgress {
  cautions: number;
  steps: number;
  /** The last level that was written down, dBm on a chain. */
  levelDbm: number | null;
  isLocked: boolean;
  /** Why it stands still; empty where it does not. */
  stopped: string;
  isDone: boolean;
  /** When anything was last written there; null where nothing was. */
  lastAt: string | null;
}

export function progressAt(notes: readonly FieldNote[], side: EndSide): EndProgress {
  const here = inOrder(notes).filter((note) => note.side === side);
  const last = (kinds: readonly NoteKind[]) => here.findLast(({ kind }) => kinds.includes(kind));
  const halt = last(["stopped", "resumed"]);
  return {
    cautions: ticked(notes, side, "caution").size,
    steps: ticked(notes, side, "step").size,
    levelDbm: here.findLast(({ levelDbm }) => levelDbm !== null)?.levelDbm ?? null,
    isLocked: last(["locked"])?.isOn ?? false,
    stopped: halt?.kind === "stopped" ? halt.text || "no reason given" : "",
    isDone: last(["done"])?.isOn ?? false,
    lastAt: here.at(-1)?.at ?? null,
  };
}
