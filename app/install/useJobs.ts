import { visitProblems, type FieldNote, type VisitProblem } from "#core/crews";
import { removePatch, setPatch, type Patch, type Visit } from "#core/plan";
import { useMemo } from "react";
import { toast } from "sonner";
import { useDesk } from "../desk/DeskContext";
import { keepPatches } from "../keep/keepPatches";
import { useBeside } from "../work/useBeside";

/** The plan's jobs with what stands against them and what crews have written; changes are kept at once, and undo takes them back. */
export function useJobs() {
  const { kept, data } = useDesk();
  const planId = kept.plan.id;
  const { kept: notes } = useBeside<FieldNote[], never, never>(`/plans/${planId}/field/notes`);
  const problems = useMemo(() => {
    const by = new Map<string, VisitProblem[]>();
    for (const problem of visitProblems(kept)) by.set(problem.visitId, [...(by.get(problem.visitId) ?? []), problem]);
    return by;
  }, [kept]);
  const notesBy = useMemo(() => {
    const by = new Map<string, FieldNote[]>();
    for (const note of notes ?? []) by.set(note.visitId, [...(by.get(note.visitId) ?? []), note]);
    return by;
  }, [notes]);
  const keep = async (patches: Patch[], what: string): Promise<boolean> => {
    if (patches.length === 0) return true;
    const { ok, message } = await keepPatches(planId, data.revision, patches, what);
    if (!ok) toast.error(message, { duration: 12_000 });
    return ok;
  };
  return {
    problems,
    notes: notesBy,
    keep,
    set: (visit: Visit, set: Partial<Visit>, what: string) => keep([setPatch("visits", visit.id, set)], what),
    remove: (visit: Visit, what: string) => keep([removePatch("visits", visit.id)], what),
  };
}
export type Jobs = ReturnType<typeof useJobs>;
