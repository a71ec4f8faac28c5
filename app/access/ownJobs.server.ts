import { whoAsks } from "#accounts";
import { linkEnds, type Visit, type World } from "#core/plan";
import { roleIn, type Store } from "#store";
import { data } from "react-router";

/** What whoever asks sees of a plan's jobs: crews their own, everybody else who has the plan all of them. */
export interface JobsSeen {
  all: boolean;
  job: (visit: Visit) => boolean;
  link: (linkId: string) => boolean;
  /** A site or a subscriber at either end of a job. */
  place: (placeId: string) => boolean;
}

const EVERYTHING: JobsSeen = { all: true, job: () => true, link: () => true, place: () => true };

export async function jobsSeen(store: Store, world: World): Promise<JobsSeen> {
  const account = whoAsks();
  if (!account || account.isKeeper) return EVERYTHING;
  if ((await roleIn(store.db, world.plan.id, account.id)) !== "crew") return EVERYTHING;
  const crews = new Set(
    [...world.crews.values()].filter(({ logins }) => logins.includes(account.login)).map(({ id }) => id),
  );
  const job = ({ crewAId, crewBId }: Visit) => crews.has(crewAId ?? "") || crews.has(crewBId ?? "");
  const links = new Set([...world.visits.values()].filter(job).map(({ linkId }) => linkId));
  const places = new Set(
    [...links].flatMap((id) => {
      const { a, b } = linkEnds(world, world.links.get(id)!);
      return [a, b].map(({ radio }) => radio.siteId ?? radio.subscriberId);
    }),
  );
  return { all: false, job, link: (id) => links.has(id), place: (id) => places.has(id) };
}

/** Throws a 404 for what a crew has no job on; whoever has nothing to do with it does not learn that it is there. */
export function requireSeen(isSeen: boolean): void {
  if (!isSeen) throw data("There is nothing here, or nothing for you.", { status: 404 });
}
