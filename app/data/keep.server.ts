import { checkPatches } from "#core/plan";
import type { PlanContext } from "#jobs";
import { applyChange, BrokenReference, type Store } from "#store";
import { parsePatches } from "./patches.server";

export interface KeepResult {
  ok: boolean;
  message: string;
  status: number;
}

/** Parses, checks and keeps a change that a browser sent; nothing of it is kept unless all of it can be. */
export async function keepChange(
  store: Store,
  context: PlanContext,
  change: { patches: unknown; who: string; what: string; reason: string },
): Promise<KeepResult> {
  const planId = context.rows.plan.id;
  const parsed = parsePatches(change.patches, planId);
  if ("error" in parsed) return { ok: false, message: parsed.error, status: 400 };
  const problems = checkPatches(context.world, parsed.patches);
  if (problems.length > 0) {
    const named = problems.slice(0, MOST_NAMED).map((problem) => problem.message);
    const rest = problems.length - named.length;
    return {
      ok: false,
      message: `Not kept. ${named.join("; ")}${rest > 0 ? `; and ${rest} more` : ""}.`,
      status: 422,
    };
  }
  try {
    await applyChange(store.db, {
      planId,
      who: change.who,
      what: change.what.slice(0, 300) || "Changed the plan",
      reason: change.reason.slice(0, 200),
      patches: parsed.patches,
    });
  } catch (error) {
    if (error instanceof BrokenReference) return { ok: false, message: error.message, status: 409 };
    throw error;
  }
  return { ok: true, message: "Kept.", status: 200 };
}

const MOST_NAMED = 5;
