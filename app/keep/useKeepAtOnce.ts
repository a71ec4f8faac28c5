import type { Patch } from "#core/plan";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { keepPatches } from "./keepPatches";

/** Keeps a change of a page at once and shows what stands then; what was refused is said. Gives whether it was kept. */
export function useKeepAtOnce(planId: string, revision: number): (patch: Patch, what: string) => Promise<boolean> {
  const { revalidate } = useRevalidator();
  return async (patch, what) => {
    const { ok, message } = await keepPatches(planId, revision, [patch], what);
    if (!ok) toast.error(message, { duration: 12_000 });
    await revalidate();
    return ok;
  };
}
