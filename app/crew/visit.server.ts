import { data } from "react-router";
import { jobsSeen } from "../access/ownJobs.server";
import { requirePlan } from "../requests/plan.server";

/** The job that a URL names, for whoever may see it. Throws a 404 for an unknown plan, job, or another crew's. */
export async function requireVisit(planId: string, visitId: string) {
  const plan = await requirePlan(planId);
  const visit = plan.world.visits.get(visitId);
  const sees = await jobsSeen(plan.store, plan.world);
  if (!visit || !sees.job(visit)) throw data("There is no such job, or it is another crew's.", { status: 404 });
  return { ...plan, visit };
}
