import type { Measurement, Visit } from "../plan";
import type { Promised } from "../proof";
import { inOrder, type EndSide, type FieldNote } from "./note";

/** What a final reading holds: levels of the chains and the noise at each end, throughput for both; in words the modulation and a series of pings. */
export const READ_KEYS = ["chain0", "chain1", "chain2", "chain3", "noise", "down", "up", "modulation", "ping"] as const;
export type ReadKey = (typeof READ_KEYS)[number];

/** What was last read of each figure at an end. */
export function readAt(notes: readonly FieldNote[], side: EndSide): Partial<Record<ReadKey, FieldNote>> {
  const read: Partial<Record<ReadKey, FieldNote>> = {};
  for (const note of inOrder(notes)) if (note.kind === "read" && note.side === side) read[note.key as ReadKey] = note;
  return read;
}

/** Under this id a job's reading stands among the link's. */
export const readingIdOf = (visit: Pick<Visit, "id">): string => `field-${visit.id}`.slice(0, 64);

/**
 * The reading that a job's notes come to, once both ends have read their first chain; null before, and where the path has no
 * prediction to be held against. Throughput is taken from whichever end wrote it last.
 */
export function readingOfNotes(
  visit: Visit,
  promised: Promised | null,
  notes: readonly FieldNote[],
): Measurement | null {
  const [a, b] = [readAt(notes, "a"), readAt(notes, "b")];
  if (!a.chain0 || !b.chain0 || !promised) return null;
  const reads = inOrder(notes.filter(({ kind }) => kind === "read"));
  const level = (note: FieldNote | undefined) => note?.levelDbm ?? null;
  const rate = (key: ReadKey) => reads.findLast((note) => note.key === key)?.value ?? null;
  const first = (note: FieldNote) => note.levelDbm;
  const [levelA0Dbm, levelB0Dbm] = [first(a.chain0), first(b.chain0)];
  if (levelA0Dbm === null || levelB0Dbm === null) return null;
  return {
    ...{ id: readingIdOf(visit), planId: visit.planId, linkId: visit.linkId },
    measuredAt: reads.at(-1)!.at,
    measuredBy: [...new Set([a.chain0.by, b.chain0.by].filter((name) => name !== ""))].join(" and ").slice(0, 120),
    ...{ levelA0Dbm, levelA1Dbm: level(a.chain1), noiseADbm: level(a.noise) },
    ...{ levelB0Dbm, levelB1Dbm: level(b.chain1), noiseBDbm: level(b.noise) },
    ...{ levelA2Dbm: level(a.chain2), levelA3Dbm: level(a.chain3) },
    ...{ levelB2Dbm: level(b.chain2), levelB3Dbm: level(b.chain3) },
    ...{ downMbps: rate("down"), upMbps: rate("up") },
    ...promised,
    notes: [...saidAt("a", a), ...saidAt("b", b)].join("; "),
  };
}

/** What was read in words at one end. */
const saidAt = (side: EndSide, { modulation, ping }: Partial<Record<ReadKey, FieldNote>>): string[] => [
  ...(modulation ? [`modulation at end ${side.toUpperCase()}: ${modulation.text}`] : []),
  ...(ping ? [`ping from end ${side.toUpperCase()}: ${ping.text}`] : []),
];

/** How a job stands by what was written on the roofs; `sides` are those at which somebody is. */
export function stateByNotes(
  notes: readonly FieldNote[],
  sides: readonly EndSide[],
): Pick<Visit, "state" | "stopped"> | null {
  const ordered = inOrder(notes);
  if (ordered.length === 0) return null;
  const halt = ordered.findLast(({ kind }) => kind === "stopped" || kind === "resumed");
  if (halt?.kind === "stopped") return { state: "stopped", stopped: halt.text || "no reason given" };
  const isDone = (side: EndSide) =>
    ordered.findLast((note) => note.kind === "done" && note.side === side)?.isOn ?? false;
  return { state: sides.length > 0 && sides.every(isDone) ? "done" : "underway", stopped: "" };
}

/** The ends at which somebody works: both of a bridge, the customer's of an access link unless a crew is at the sector too. */
export const sidesOf = (visit: Visit, linkKind: "access" | "bridge"): EndSide[] =>
  linkKind === "bridge" || visit.crewAId !== null ? ["a", "b"] : ["b"];
