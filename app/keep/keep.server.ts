import { fieldWord, type Conflict, type Patch } from "#core/plan";
import { NoRoom, recordChange, stepRecord, type Author, type Outcome, type PlanBytes, type Store } from "#store";
import type { KeepAnswer } from "./answer";
import { parsePatches } from "./patches.server";

export interface KeepResult extends KeepAnswer {
  status: number;
}

/** How much of a long list a message names. */
const MOST_NAMED = 5;
const LONGEST_WHAT = 300;
const LONGEST_REASON = 200;

function named(messages: readonly string[]): string {
  const rest = messages.length - MOST_NAMED;
  return `${messages.slice(0, MOST_NAMED).join("; ")}${rest > 0 ? `; and ${rest} more` : ""}`;
}

/** "Ana has changed the height of Lighthouse since". */
function conflictText({ kind, who, name, field, theirs }: Conflict): string {
  const someone = who || "somebody";
  if (field === "" && theirs === null) return `${someone} has removed ${name} since`;
  return field === ""
    ? `${someone} has worked on ${name} since`
    : `${someone} has changed the ${fieldWord(kind, field)} of ${name} since`;
}

/** The answer to a change, in words for people. */
function answerOf(outcome: Outcome, keptMessage: string): KeepResult {
  if (outcome.kind === "kept") return { ok: true, message: keptMessage, revision: outcome.revision, status: 200 };
  if (outcome.kind === "nothing")
    return {
      ok: true,
      message: "Nothing to keep: it stands like that already.",
      revision: outcome.revision,
      status: 200,
    };
  if (outcome.kind === "conflict")
    return {
      ok: false,
      message: `Not kept: ${named(outcome.conflicts.map(conflictText))}.`,
      revision: outcome.revision,
      conflicts: outcome.conflicts.map(({ at, ...conflict }) => ({ ...conflict, at: at.toISOString() })),
      status: 409,
    };
  const { problems } = outcome;
  return {
    ok: false,
    message: `Not kept. ${named(problems.map(({ field, message, isUnknown }) => (isUnknown ? `${field}: ${message}` : message)))}.`,
    status: problems.some(({ isUnknown }) => isUnknown) ? 400 : 422,
  };
}

/** Answers a full disk in words instead of failing. */
async function withRoom(work: () => Promise<KeepResult>): Promise<KeepResult> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof NoRoom) return { ok: false, message: error.message, status: 507 };
    throw error;
  }
}

interface KeepOrder {
  op?: string;
  what: string;
  reason?: string;
  patches: readonly Patch[];
  base?: number;
  bytes?: PlanBytes;
}

/** Keeps a change that the server has made up itself. */
export function keepOwn(store: Store, planId: string, author: Author, order: KeepOrder): Promise<KeepResult> {
  return withRoom(async () => {
    const what = order.what.slice(0, LONGEST_WHAT) || "Changed the plan";
    const reason = (order.reason ?? "").slice(0, LONGEST_REASON);
    return answerOf(await recordChange(store.db, { ...author, ...order, planId, what, reason }), "Kept.");
  });
}

/** Parses, checks and keeps a change that a browser sent; nothing of it is kept unless all of it can be. */
export async function keepSent(
  store: Store,
  planId: string,
  author: Author,
  order: Omit<KeepOrder, "patches" | "bytes"> & { patches: unknown },
): Promise<KeepResult> {
  const parsed = await parsePatches(order.patches, planId);
  if ("error" in parsed) return { ok: false, message: parsed.error, status: 400 };
  return keepOwn(store, planId, author, { ...order, patches: parsed.patches });
}

/** Takes back or puts back an author's last change. */
export function stepBack(
  store: Store,
  planId: string,
  author: Author,
  order: { way: "undo" | "redo"; op?: string; leaveTheirs?: boolean },
): Promise<KeepResult> {
  const { way } = order;
  return withRoom(async () => {
    const outcome = await stepRecord(store.db, { planId, ...author, ...order });
    if (!outcome) return { ok: false, message: `Nothing of yours to ${way}.`, status: 200 };
    const done = way === "undo" ? "Took back" : "Redone";
    const answer = answerOf(outcome, outcome.kind === "kept" ? `${done}: ${outcome.what}` : "");
    return answer.ok
      ? answer
      : { ...answer, message: answer.message.replace("Not kept", way === "undo" ? "Not taken back" : "Not redone") };
  });
}
