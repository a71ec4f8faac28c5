import { DESK, visitProblems, type FieldNote, type VisitProblem } from "#core/crews";
import { removalOf, setPatch, type Patch, type Visit } from "#core/plan";
import { useMemo } from "react";
import { toast } from "sonner";
import { useDesk } from "../../desk/DeskContext";
import { keepPatches } from "../../keep/keepPatches";
import { usePreferences } from "../../ui";
import { request } from "../../ask/request";
import { useBeside } from "../../ask/useBeside";

/** The plan's jobs with what stands against them and what crews have written; changes are kept at once, and undo takes them back. */
export function useJobs() {
  const { kept, data } = useDesk();
  const planId = kept.plan.id;
  const { name } = usePreferences();
  const { kept: notes, look } = useBeside<FieldNote[], never, never>(`/plans/${planId}/field/notes`);
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
  /** Says something to both crews of a job. */
  const say = async (visit: Visit, text: string): Promise<boolean> => {
    const id = crypto.randomUUID();
    const note = {
      id,
      visitId: visit.id,
      side: "a",
      kind: "message",
      key: DESK,
      text,
      by: name,
      at: new Date().toISOString(),
    };
    try {
      await request(`/plans/${planId}/field`, { body: { ops: [{ id, note }] } });
    } catch (error) {
      toast.error(`Message not sent. ${(error as Error).message}`);
      return false;
    }
    await look();
    return true;
  };
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
    say,
    set: (visit: Visit, set: Partial<Visit>, what: string) => keep([setPatch("visits", visit.id, set)], what),
    // What only names the job (a later job, an alarm) is emptied of it.
    remove: (visit: Visit, what: string) => keep(removalOf(kept, [{ kind: "visits", id: visit.id }]).patches, what),
  };
}
export type Jobs = ReturnType<typeof useJobs>;
