import { besideStamp, readFieldNotes } from "#store";
import { besideOf } from "../requests/beside.server";
import { requirePlanId } from "../requests/plan.server";
import type { Route } from "./+types/fieldNotes";

/** What crews have written down of all jobs of a plan, for the desk that looks on. */
export async function loader({ params: { planId }, request }: Route.LoaderArgs) {
  const store = await requirePlanId(planId);
  return besideOf(request, await besideStamp(store.db, "field_notes", planId), () => readFieldNotes(store.db, planId));
}
