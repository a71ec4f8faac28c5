import { CAUTIONS } from "../install";
import { feedingLinks, nearSite, stepsFromFeed } from "../outcome";
import { linkEnds, type Link, type LinkState, type Visit, type World } from "../plan";
import { minutesOf, procedureFor } from "../procedures";
import { linkStates } from "../proof";

/** Rounded up to what a day is planned in, minutes. */
const GRID_MIN = 15;
/** Confirming, aiming and reading beside the steps of the kit, minutes. */
const AIM_MIN = 45;

/** What is to be done on a link, by what is known of it; null where nothing is. */
export function workFor(state: LinkState): Visit["work"] | null {
  if (state === "planned") return "build";
  if (state === "failed") return "mend";
  return state === "doubtful" ? "aim" : null;
}

/** The state of each link of a plan, by its id. */
function statesIn(world: World): (linkId: string) => LinkState {
  const states = linkStates(world);
  return (linkId) => states.get(linkId) ?? "planned";
}

/** How long the longer of both ends takes, minutes: its kit's own steps, and the aiming. */
export function minutesFor(world: World, link: Link, work: Visit["work"]): number {
  if (work !== "build") return 2 * AIM_MIN;
  const own = [...world.procedures.values()];
  const { a, b } = linkEnds(world, link);
  const ends = link.kind === "access" ? [b] : [a, b];
  const steps = ends.map((end) =>
    minutesOf(procedureFor(end, { ruleSetId: world.plan.ruleSetId, looks: "down" }, own).steps),
  );
  return Math.min(720, Math.ceil((Math.max(...steps) + AIM_MIN + 2 * CAUTIONS.length) / GRID_MIN) * GRID_MIN);
}

/** Links of the stages of growth up to one that have something to do and no open job yet. */
export function linksWaiting(world: World, toStage: number): Link[] {
  const open = new Set([...world.visits.values()].flatMap(({ linkId, state }) => (state === "done" ? [] : [linkId])));
  const stateOf = statesIn(world);
  return [...world.links.values()].filter(
    (link) => link.growthStage <= toStage && workFor(stateOf(link.id)) !== null && !open.has(link.id),
  );
}

/**
 * A job for the first `most` links that wait in the stages up to one, those nearest to a feed first. Each waits for the jobs on the bridges that bring its
 * own site the feed: what hangs behind cannot be tried before them.
 */
export function proposeVisits(world: World, newId: () => string, toStage: number, most = Infinity): Visit[] {
  const open = new Map<string, string>();
  for (const { id, linkId, state } of world.visits.values()) if (state !== "done") open.set(linkId, id);
  const far = stepsFromFeed(world);
  const feeders = feedingLinks(world, far);
  const wanted = linksWaiting(world, toStage)
    .map((link) => ({ link, near: nearSite(world, link, far), isAccess: link.kind === "access" }))
    .map((one) => ({ ...one, far: one.near === null ? Infinity : far.get(one.near)! }))
    .sort(
      (x, y) =>
        (x.far === y.far ? 0 : x.far - y.far) ||
        Number(x.isAccess) - Number(y.isAccess) ||
        (x.link.id < y.link.id ? -1 : 1),
    )
    .slice(0, most);
  const stateOf = statesIn(world);
  return wanted.map(({ link, near }) => {
    const work = workFor(stateOf(link.id))!;
    const id = newId();
    const before = (feeders.get(near ?? "") ?? []).flatMap((linkId) =>
      linkId === link.id ? [] : (open.get(linkId) ?? []),
    );
    open.set(link.id, id);
    return openVisit(world, link, id, work, before.slice(0, MOST_BEFORE));
  });
}

/** A job to mend a link, with what is known of it as its notes. */
export const mendVisit = (world: World, link: Link, id: string, notes: string): Visit => ({
  ...openVisit(world, link, id, "mend", []),
  notes,
});

/** A job without a day or a crew yet. */
function openVisit(world: World, link: Link, id: string, work: Visit["work"], afterIds: string[]): Visit {
  return {
    ...{ id, planId: world.plan.id, linkId: link.id, work },
    ...{ day: "", startMinute: 8 * 60, minutes: minutesFor(world, link, work) },
    ...{ crewAId: null, crewBId: null, afterIds },
    ...{ weather: "", powerOff: "notNeeded", climb: "notNeeded", neighboursTold: false, packed: false },
    ...{ state: "planned", stopped: "", notes: "" },
  };
}

/** Jobs that one may wait for. */
const MOST_BEFORE = 20;
