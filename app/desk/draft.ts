import {
  keptPatch,
  mergePatches,
  overConflicts,
  rowIn,
  same,
  withoutConflicts,
  type Patch,
  type World,
} from "#core/plan";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { ConflictWire, KeepAnswer } from "../keep/answer";
import { fromWire } from "../keep/keepPatches";
import { nextOp, postChange } from "../keep/post";
import { asideDrafts, draftKey, dropAside, putAside, storedDraft, type AsideDraft } from "./asideDrafts";

/** Drops what stands in the kept plan already, so that trying and returning leaves nothing in hand. */
function withoutReturned(world: World, patches: readonly Patch[]): Patch[] {
  return patches.flatMap((patch): Patch[] => {
    const row = rowIn(world, patch.kind, patch.id);
    // A thing that somebody removed keeps what was typed about it until that is settled.
    if (!row) return patch.remove ? [] : [patch];
    if (patch.put) return same(row, patch.put) ? [] : [patch];
    const kept = keptPatch(row, patch);
    if (!kept) return [];
    return "set" in kept ? [{ ...patch, set: kept.set } as Patch] : [patch];
  });
}

export interface Draft {
  patches: Patch[];
  /** Fields in hand that somebody else has changed meanwhile. */
  conflicts: readonly ConflictWire[];
  put: (patches: readonly Patch[]) => void;
  /** Takes the draft off the plan; it stays aside, and one undo away. */
  discard: () => void;
  /** Drafts of this plan kept aside in this browser, newest first. */
  aside: readonly AsideDraft[];
  /** Whether undo brings back the draft that was discarded last: nothing was edited since. */
  canRestore: boolean;
  /** Puts a draft kept aside back over the plan: the given one, or the newest. */
  restore: (at?: string) => void;
  dropAside: (at: string) => void;
  /** Sends what is in hand. What is typed until the answer comes stays in hand; what is refused comes back. */
  keep: (what: string, reason: string) => Promise<KeepAnswer>;
  settle: (conflict: ConflictWire, whose: "theirs" | "mine") => void;
}

/** What is in hand: on its way to the server, and typed since. */
interface InHand {
  sent: Patch[];
  typed: Patch[];
}
const NOTHING: InHand = { sent: [], typed: [] };

/**
 * The change in hand over the plan's rows of `revision`. It outlives a reload: it stands in the session's storage until it is
 * kept or discarded. `reload` fetches the plan anew.
 */
export function useDraft(kept: World, revision: number, reload: () => Promise<void>): Draft {
  const planId = kept.plan.id;
  const key = draftKey(planId);
  const [aside, setAside] = useState<readonly AsideDraft[]>([]);
  const [canRestore, setCanRestore] = useState(false);
  const [inHand, setInHand] = useState<InHand>(NOTHING);
  const [conflicts, setConflicts] = useState<readonly ConflictWire[]>([]);
  const latest = useRef(inHand);
  const change = useCallback(
    (next: InHand) => {
      latest.current = next;
      setInHand(next);
      const all = mergePatches(next.sent, next.typed);
      if (all.length > 0) sessionStorage.setItem(key, JSON.stringify(all));
      else sessionStorage.removeItem(key);
    },
    [key],
  );
  // Storage is read after the first paint, for the server has none.
  useEffect(() => {
    // An edit that was being saved when the page went is sent again: saved twice, it changes nothing.
    latest.current = { sent: [], typed: storedDraft(planId) };
    setInHand(latest.current);
    setConflicts([]);
    setAside(asideDrafts(planId));
    setCanRestore(false);
  }, [planId]);

  const put = useCallback(
    (more: readonly Patch[]) => {
      const { sent, typed } = latest.current;
      const based = more.map((patch) => ({ ...patch, base: patch.base ?? revision }) as Patch);
      change({ sent, typed: mergePatches(typed, based) });
      setCanRestore(false);
    },
    [change, revision],
  );
  const discard = useCallback(() => {
    const { sent, typed } = latest.current;
    if (typed.length === 0) return;
    setAside(putAside(planId, typed, "discarded"));
    setCanRestore(true);
    change({ sent, typed: [] });
    setConflicts([]);
  }, [change, planId]);
  const restore = useCallback(
    (at?: string) => {
      const draft = asideDrafts(planId).find((one) => at === undefined || one.at === at);
      if (!draft) return;
      const { sent, typed } = latest.current;
      change({ sent, typed: mergePatches(draft.patches, typed) });
      setAside(dropAside(planId, draft.at));
      setCanRestore(false);
    },
    [change, planId],
  );
  const drop = useCallback(
    (at: string) => {
      setAside(dropAside(planId, at));
      setCanRestore(false);
    },
    [planId],
  );

  const patches = useMemo(() => withoutReturned(kept, mergePatches(inHand.sent, inHand.typed)), [kept, inHand]);
  const keep = async (what: string, reason: string): Promise<KeepAnswer> => {
    const sending = withoutReturned(kept, latest.current.typed);
    change({ sent: sending, typed: [] });
    const answer = await postChange(planId, { op: nextOp(), base: revision, patches: sending, what, reason });
    // The plan as kept comes before what was in hand goes: no figure jumps back in between.
    if (answer.ok || answer.conflicts) await reload();
    const { typed } = latest.current;
    change({ sent: [], typed: answer.ok ? typed : mergePatches(sending, typed) });
    setConflicts(answer.conflicts ?? []);
    return answer;
  };
  const settle = (conflict: ConflictWire, whose: "theirs" | "mine") => {
    const { sent, typed } = latest.current;
    const one = [fromWire(conflict)];
    change({ sent, typed: whose === "theirs" ? withoutConflicts(typed, one) : overConflicts(typed, one) });
    setConflicts((old) => old.filter((other) => other !== conflict));
  };
  return { patches, conflicts, put, discard, aside, canRestore, restore, dropAside: drop, keep, settle };
}
