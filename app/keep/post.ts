import type { Patch } from "#core/plan";
import type { KeepAnswer } from "./answer";
import { wordsOf } from "../ask/request";

/** Names this window as long as it is open: what it has kept itself never stands in its way. */
const windowName = typeof crypto === "undefined" ? "server" : crypto.randomUUID();
let count = 0;

/** A name for one change of this window, so that sending it again keeps it once. */
export function nextOp(): string {
  return `${windowName}-${++count}`;
}

const NO_ANSWER = "Not kept: Tejado does not answer. Nothing that was typed is lost; try again.";
/** An answer that does not come may still have been kept: the same op is sent again before anybody is told. */
const TRIES = 2;

async function post(planId: string, body: object): Promise<KeepAnswer> {
  for (let tried = 1; ; tried++) {
    const response = await fetch(`/plans/${encodeURIComponent(planId)}/changes`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
    }).catch(() => null);
    if (response?.headers.get("content-type")?.includes("json")) return (await response.json()) as KeepAnswer;
    if (response) return { ok: false, message: await wordsOf(response) };
    if (tried >= TRIES) return { ok: false, message: NO_ANSWER };
  }
}

/** Sends a change; patches that name no base were made on `base`. */
export function postChange(
  planId: string,
  change: { op: string; base: number; patches: readonly Patch[]; what: string; reason?: string },
): Promise<KeepAnswer> {
  return post(planId, { intent: "keep", ...change });
}

/** Takes back or puts back one's own last change; with `leaveTheirs` all of it but what others have changed since. */
export function postStep(planId: string, way: "undo" | "redo", leaveTheirs = false): Promise<KeepAnswer> {
  return post(planId, { intent: way, op: nextOp(), leaveTheirs });
}
