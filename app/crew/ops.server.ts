import {
  END_SIDES,
  fieldNoteSchema,
  readingIdOf,
  readingOfNotes,
  sidesOf,
  stateByNotes,
  visitName,
  type FieldNote,
} from "#core/crews";
import { fieldOf, fieldWord, linkEnds, patchBetween, plainIssue, setPatch, type Visit, type World } from "#core/plan";
import { judge, promisedBy, promisedIn } from "#core/proof";
import type { PlanContext } from "#engine";
import { addFieldNotes, NoRoom, readFieldNotes, type Store } from "#store";
import type { FieldAnswer, FieldOp } from "#wire";
import { z } from "zod";
import type { JobsSeen } from "../access/ownJobs.server";
import { keepOwn, keepSent } from "../keep/keep.server";

const opId = z.string().regex(/^[\w-]{8,64}$/, "is no id of an entry");
const patchOp = z.object({
  id: opId,
  visitId: z.string().min(1).max(64),
  base: z.number().int().min(0),
  what: z.string().max(300),
  by: z.string().max(120),
  patch: z.object({
    kind: z.enum(["sites", "subscribers", "radios"]),
    id: z.string().min(1).max(64),
    set: z.record(z.string(), z.unknown()),
  }),
});
/** What a phone sends at once; each entry is looked at by itself, so that one bad one does not hold up the rest. */
export const opsSchema = z.object({
  ops: z.array(z.unknown()).max(500),
  /** Jobs whose notes the phone wants to hear of, its own among them. */
  watch: z.array(z.string().max(64)).max(100).default([]),
});

interface Work {
  store: Store;
  context: PlanContext;
  planId: string;
  sees: JobsSeen;
  author: { who: string; authors: [string, ...string[]] };
  /** Name of the account that is signed in: it signs, whatever the phone says. */
  account: string | null;
}

const told = ({ issues }: z.ZodError): string => `${issues[0]!.path.join(".")} ${plainIssue(issues[0]!)}`;

/**
 * Takes what a phone wrote while it had no signal. Entries are kept one by one, each under the id that the phone gave it, so sent twice
 * it is kept once. Notes are all added first; then what follows from them: readings, and how the jobs stand.
 */
export async function takeOps(work: Work, raw: readonly unknown[]): Promise<FieldAnswer[]> {
  const { world } = await work.context.load();
  const answers: FieldAnswer[] = [];
  const notes: FieldNote[] = [];
  const asked: Extract<FieldOp, { patch: unknown }>[] = [];
  for (const one of raw) {
    const { id, note } = (one ?? {}) as { id?: unknown; note?: unknown };
    const refuse = (message: string) => answers.push({ id: String(id), kind: "refused", message });
    const parsed = note === undefined ? patchOp.safeParse(one) : fieldNoteSchema.safeParse(note);
    if (!parsed.success) {
      refuse(told(parsed.error));
      continue;
    }
    const visit = world.visits.get(parsed.data.visitId);
    if (!visit) refuse("This job is not in the plan any more; what was written is still on this phone.");
    else if (!work.sees.job(visit)) refuse("This job is another crew's.");
    else if ("patch" in parsed.data) asked.push(parsed.data as Extract<FieldOp, { patch: unknown }>);
    else if (parsed.data.id !== id) refuse("the entry and its note have different ids");
    else notes.push(work.account ? { ...parsed.data, by: work.account } : parsed.data);
  }
  try {
    if (notes.length > 0) await work.store.db.transaction((tx) => addFieldNotes(tx, work.planId, notes));
    answers.push(...notes.map(({ id }): FieldAnswer => ({ id, kind: "kept" })));
    // Those that were there before too: whoever died between adding them and this is made good by the phone's second try.
    for (const visitId of new Set(notes.map((note) => note.visitId)))
      await follow(work, world, world.visits.get(visitId)!);
  } catch (error) {
    // What finds no room is not answered: it waits on the phone and comes again.
    if (!(error instanceof NoRoom)) throw error;
  }
  for (const op of asked) {
    const answer = await setRow(work, world, op);
    if (answer) answers.push(answer);
  }
  return answers;
}

/** Keeps what a job's notes come to: its reading with the link's new state, and how it stands itself. */
async function follow({ store, context, planId, author }: Work, world: World, visit: Visit): Promise<void> {
  const link = world.links.get(visit.linkId)!;
  const notes = await readFieldNotes(store.db, planId, [visit.id]);
  const answer = notes.some(({ kind }) => kind === "read") ? await context.ask("link", { linkId: link.id }) : null;
  const { a, b } = linkEnds(world, link);
  const name = visitName(world, visit);
  const reading = readingOfNotes(visit, answer?.path ? promisedBy(world.plan, answer.path) : null, notes);
  const known = world.measurements.get(readingIdOf(visit));
  const read = reading && patchBetween("measurements", known, known ? { ...reading, ...promisedIn(known) } : reading);
  if (reading && read) {
    const { state } = judge(world.plan, a, b, { ...reading, ...(known && promisedIn(known)) });
    await keepOwn(store, planId, author, {
      what: `Reading on ${name}: ${state}`,
      patches: [read, ...(state === link.state ? [] : [setPatch("links", link.id, { state })])],
    });
  }
  const stands = stateByNotes(notes, sidesOf(visit, link.kind));
  if (stands && (stands.state !== visit.state || stands.stopped !== visit.stopped))
    await keepOwn(store, planId, author, {
      what: `Job on ${name}: ${stands.state}${stands.stopped && `, ${stands.stopped}`}`,
      patches: [setPatch("visits", visit.id, stands)],
    });
}

/** What `keepSent` answers on a full disk. */
const NO_ROOM = 507;

/** Puts a row right as the roof found it, or says whose word stands against it; null where there was no room. */
async function setRow(
  { store, planId, author, account }: Work,
  world: World,
  { id, visitId, base, what, by, patch }: Extract<FieldOp, { patch: unknown }>,
): Promise<FieldAnswer | null> {
  const ends = linkEnds(world, world.links.get(world.visits.get(visitId)!.linkId)!);
  const own = END_SIDES.flatMap((side) => {
    const { radio } = ends[side];
    return [radio.id, radio.siteId, radio.subscriberId];
  });
  const foreign = Object.keys(patch.set).find((name) => fieldOf(patch.kind, name)?.facts.setBy !== "crew");
  if (foreign !== undefined)
    return {
      id,
      kind: "refused",
      message: `The ${fieldWord(patch.kind, foreign)} is changed at the desk, not from a roof.`,
    };
  if (!own.includes(patch.id)) return { id, kind: "refused", message: "This is not at either end of the job." };
  const result = await keepSent(
    store,
    planId,
    { ...author, who: account ?? (by || author.who) },
    { op: id, what, base, patches: [patch] },
  );
  if (result.ok) return { id, kind: "kept" };
  if (result.status === NO_ROOM) return null;
  const [conflict] = result.conflicts ?? [];
  if (!conflict) return { id, kind: "refused", message: result.message };
  return { id, kind: "conflict", message: result.message, theirs: conflict.theirs, revision: result.revision ?? base };
}
