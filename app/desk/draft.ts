import { mergeEdits, type Edit, type World } from "#core/plan";
import { useCallback, useEffect, useMemo, useState } from "react";

/** The row that the kept plan has for an edit, or null. */
function keptRow(world: World, edit: Edit): unknown {
  if (edit.kind === "plans") return world.plan;
  if (edit.kind === "equipment") return null;
  return world[edit.kind].get(edit.id) ?? null;
}

/** Drops edits that put back what is kept already, so trying and returning leaves nothing in hand. */
function withoutReturned(world: World, edits: Edit[]): Edit[] {
  return edits.filter((edit) => JSON.stringify(edit.row) !== JSON.stringify(keptRow(world, edit)));
}

export interface Draft {
  edits: Edit[];
  put: (edits: Edit[]) => void;
  discard: () => void;
}

/** The change in hand. It outlives a reload: it stands in the session's storage until it is kept or discarded. */
export function useDraft(kept: World): Draft {
  const key = `tejado-draft-${kept.plan.id}`;
  const [edits, setEdits] = useState<Edit[]>([]);
  // Storage is read after the first paint, for the server has none.
  useEffect(() => {
    try {
      const stored = sessionStorage.getItem(key);
      setEdits(stored ? (JSON.parse(stored) as Edit[]) : []);
    } catch {
      setEdits([]);
    }
  }, [key]);
  const put = useCallback(
    (more: Edit[]) =>
      setEdits((old) => {
        const next = mergeEdits(old, more);
        sessionStorage.setItem(key, JSON.stringify(next));
        return next;
      }),
    [key],
  );
  const discard = useCallback(() => {
    sessionStorage.removeItem(key);
    setEdits([]);
  }, [key]);
  const real = useMemo(() => withoutReturned(kept, edits), [kept, edits]);
  return { edits: real, put, discard };
}
