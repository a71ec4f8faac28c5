import { overConflicts, withoutConflicts, type Conflict, type Patch } from "#core/plan";
import type { ConflictWire, KeepAnswer } from "./answer";
import { askWhose } from "./askWhose";
import { nextOp, postChange } from "./post";

/** A conflict as core's functions take it. */
export const fromWire = (conflict: ConflictWire): Conflict => ({ ...conflict, at: new Date(conflict.at) });

/**
 * Keeps a change at once: what was found out on the ground is no matter of trying. `base` is the revision of the rows that it
 * was made on. Where others have changed the same fields since, the person is asked whose to take.
 */
export async function keepPatches(
  planId: string,
  base: number,
  patches: readonly Patch[],
  what: string,
): Promise<KeepAnswer> {
  let left = patches.map((patch) => ({ ...patch, base: patch.base ?? base }) as Patch);
  for (;;) {
    const answer = await postChange(planId, { op: nextOp(), base, patches: left, what });
    if (!answer.conflicts) return answer;
    const mine = await askWhose(answer.conflicts);
    if (!mine) return answer;
    const [kept, dropped] = [
      answer.conflicts.filter((one) => mine.includes(one)),
      answer.conflicts.filter((one) => !mine.includes(one)),
    ];
    left = overConflicts(withoutConflicts(left, dropped.map(fromWire)), kept.map(fromWire));
    if (left.length === 0)
      return {
        ok: true,
        message: "Theirs stands.",
        ...(answer.revision === undefined ? {} : { revision: answer.revision }),
      };
  }
}
