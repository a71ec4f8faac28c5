import { whoAsks } from "#accounts";
import type { Visit, World } from "#core/plan";
import { roleIn, type Store } from "#store";
import { data } from "react-router";

/** Whether somebody sees a job: crews see their own, everybody else who has the plan sees all. */
export type SeesJob = (visit: Visit) => boolean;

/** What whoever asks sees of a plan's jobs. */
export async function jobsSeen(store: Store, world: World): Promise<SeesJob> {
  const account = whoAsks();
  if (!account || account.isKeeper) return () => true;
  const role = await roleIn(store.db, world.plan.id, account.id);
  if (role !== "crew") return () => true;
  const own = new Set(
    [...world.crews.values()].filter(({ logins }) => logins.includes(account.login)).map(({ id }) => id),
  );
  return ({ crewAId, crewBId }) => own.has(crewAId ?? "") || own.has(crewBId ?? "");
}

/** Throws a 404 where a crew asks for a link on which it has no job. */
export async function requireOwnLink(store: Store, world: World, linkId: string): Promise<void> {
  const sees = await jobsSeen(store, world);
  const account = whoAsks();
  if (!account) return;
  const jobs = [...world.visits.values()].filter((visit) => visit.linkId === linkId);
  const seesAll = sees({ crewAId: null, crewBId: null } as Visit);
  if (!seesAll && !jobs.some(sees)) throw data("There is nothing here, or nothing for you.", { status: 404 });
}
