import { mergePatches, type Patch, type World } from "#core/plan";
import { useCallback, useEffect, useMemo, useState } from "react";

/** The row that the kept plan has for an patch, or null. */
function keptRow(world: World, patch: Patch): unknown {
  if (patch.kind === "plans") return world.plan;
  if (patch.kind === "equipment") return null;
  return world[patch.kind].get(patch.id) ?? null;
}

/** Drops patches that put back what is kept already, so trying and returning leaves nothing in hand. */
function withoutReturned(world: World, patches: Patch[]): Patch[] {
  return patches.filter((patch) => JSON.stringify(patch.row) !== JSON.stringify(keptRow(world, patch)));
}

export interface Draft {
  patches: Patch[];
  put: (patches: Patch[]) => void;
  discard: () => void;
}

/** The change in hand. It outlives a reload: it stands in the session's storage until it is kept or discarded. */
export function useDraft(kept: World): Draft {
  const key = `tejado-draft-${kept.plan.id}`;
  const [patches, setEdits] = useState<Patch[]>([]);
  // Storage is read after the first paint, for the server has none.
  useEffect(() => {
    try {
      const stored = sessionStorage.getItem(key);
      setEdits(stored ? (JSON.parse(stored) as Patch[]) : []);
    } catch {
      setEdits([]);
    }
  }, [key]);
  const put = useCallback(
    (more: Patch[]) =>
      setEdits((old) => {
        const next = mergePatches(old, more);
        sessionStorage.setItem(key, JSON.stringify(next));
        return next;
      }),
    [key],
  );
  const discard = useCallback(() => {
    sessionStorage.removeItem(key);
    setEdits([]);
  }, [key]);
  const real = useMemo(() => withoutReturned(kept, patches), [kept, patches]);
  return { patches: real, put, discard };
}
