import { whoAsks } from "#accounts";
import { readFieldNotes } from "#store";
import { authorOf } from "../access/author.server";
import { jobsSeen } from "../access/ownJobs.server";
import { askedOf } from "../requests/asked.server";
import { requirePlan } from "../requests/plan.server";
import { opsSchema, takeOps } from "../crew/ops.server";
import { fieldPack, fieldVisit } from "../crew/pack.server";
import { fieldAccount, requireWriter } from "../crew/writer.server";
import type { Route } from "./+types/field";

const NO_STORE = { "Cache-Control": "no-store" };

/** The jobs that a phone may take along; with `?visit=` all that it needs of one. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const { store, context, world, revision } = await requirePlan(params.planId);
  const sees = await jobsSeen(store, world);
  const wanted = url.searchParams.get("visit");
  const visits = [...world.visits.values()].filter(sees.job);
  if (wanted === null) {
    const listed = visits.map((visit) => fieldVisit(world, visit));
    return Response.json({ planName: world.plan.name, visits: listed, account: fieldAccount() }, { headers: NO_STORE });
  }
  const visit = visits.find(({ id }) => id === wanted);
  if (!visit) return Response.json({ message: "There is no such job, or it is another crew's." }, { status: 404 });
  return Response.json(await fieldPack(store, context, { world, revision, visit }), { headers: NO_STORE });
}

/** Takes what was written on a phone; tells what became of each entry, and what the other end has written since. */
export async function action({ params, request }: Route.ActionArgs) {
  requireWriter(request);
  const { store, context, world } = await requirePlan(params.planId);
  const { ops, watch } = await askedOf(request, opsSchema, "Nothing was taken");
  const sees = await jobsSeen(store, world);
  const work = {
    store,
    context,
    sees,
    planId: params.planId,
    author: authorOf(request),
    account: whoAsks()?.name ?? null,
  };
  const answers = await takeOps(work, ops);
  const watched = watch.filter((id) => {
    const visit = world.visits.get(id);
    return visit && sees.job(visit);
  });
  const notes = await readFieldNotes(store.db, params.planId, watched);
  return Response.json({ answers, notes, account: fieldAccount() }, { headers: NO_STORE });
}
