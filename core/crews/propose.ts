import { CAUTIONS } from "../install";
import { linkEnds, type Link, type Visit, type World } from "../plan";
import { minutesOf, procedureFor } from "../procedures";

/** Rounded up to what a day is planned in, minutes. */
const GRID_MIN = 15;
/** Confirming, aiming and reading beside the steps of the kit, minutes. */
const AIM_MIN = 45;

/** What is to be done on a link, by what is known of it; null where nothing is. */
export function workFor(link: Link): Visit["work"] | null {
  if (link.state === "planned") return "build";
  if (link.state === "failed") return "mend";
  return link.state === "doubtful" ? "aim" : null;
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

/** Sites by how many bridges they stand from a feed; those that no feed reaches are left out. */
function stepsFromFeed(world: World): Map<string, number> {
  const steps = new Map<string, number>(
    [...world.sites.values()].flatMap(({ id, isFeed }) => (isFeed ? [[id, 0] as const] : [])),
  );
  const bridges = [...world.links.values()].filter(({ kind }) => kind === "bridge");
  const siteOf = (radioId: string) => world.radios.get(radioId)?.siteId ?? null;
  for (const [siteId, far] of steps)
    for (const { aRadioId, bRadioId } of bridges) {
      const ends = [siteOf(aRadioId), siteOf(bRadioId)];
      if (!ends.includes(siteId)) continue;
      const other = ends.find((id) => id !== siteId);
      if (other && !steps.has(other)) steps.set(other, far + 1);
    }
  return steps;
}

/** Links that have something to do and no open job yet. */
export function linksWaiting(world: World): Link[] {
  const open = new Set([...world.visits.values()].flatMap(({ linkId, state }) => (state === "done" ? [] : [linkId])));
  return [...world.links.values()].filter((link) => workFor(link) !== null && !open.has(link.id));
}

/**
 * A job for the first `most` links that wait, those nearest to a feed first. Each waits for the jobs on the bridges that bring its
 * own site the feed: what hangs behind cannot be tried before them.
 */
export function proposeVisits(world: World, newId: () => string, most = Infinity): Visit[] {
  const open = new Map<string, string>();
  for (const { id, linkId, state } of world.visits.values()) if (state !== "done") open.set(linkId, id);
  const far = stepsFromFeed(world);
  const feeders = feedingLinks(world, far);
  const wanted = linksWaiting(world)
    .map((link) => ({ link, near: nearSite(world, link, far), isAccess: link.kind === "access" }))
    .map((one) => ({ ...one, far: one.near === null ? Infinity : far.get(one.near)! }))
    .sort(
      (x, y) =>
        (x.far === y.far ? 0 : x.far - y.far) ||
        Number(x.isAccess) - Number(y.isAccess) ||
        (x.link.id < y.link.id ? -1 : 1),
    )
    .slice(0, most);
  return wanted.map(({ link, near }) => {
    const work = workFor(link)!;
    const id = newId();
    const before = (feeders.get(near ?? "") ?? []).flatMap((linkId) =>
      linkId === link.id ? [] : (open.get(linkId) ?? []),
    );
    open.set(link.id, id);
    return {
      ...{ id, planId: world.plan.id, linkId: link.id, work },
      ...{ day: "", startMinute: 8 * 60, minutes: minutesFor(world, link, work) },
      ...{ crewAId: null, crewBId: null, afterIds: before.slice(0, MOST_BEFORE) },
      ...{ weather: "", powerOff: "notNeeded", climb: "notNeeded", neighboursTold: false, packed: false },
      ...{ state: "planned", stopped: "", notes: "" },
    };
  });
}
/** Jobs that one may wait for. */
const MOST_BEFORE = 20;

const sitesOf = (world: World, { aRadioId, bRadioId }: Link): string[] =>
  [aRadioId, bRadioId].flatMap((id) => world.radios.get(id)?.siteId ?? []);

/** The end of a link that is nearer to a feed; null where no feed reaches either. */
function nearSite(world: World, link: Link, far: ReadonlyMap<string, number>): string | null {
  const reached = sitesOf(world, link).filter((id) => far.has(id));
  return reached.sort((x, y) => far.get(x)! - far.get(y)!)[0] ?? null;
}

/** The bridges that bring each site its feed. */
function feedingLinks(world: World, far: ReadonlyMap<string, number>): Map<string, string[]> {
  const feeders = new Map<string, string[]>();
  for (const link of world.links.values()) {
    if (link.kind !== "bridge") continue;
    const [x, y] = sitesOf(world, link);
    for (const [site, other] of [
      [x, y],
      [y, x],
    ])
      if (site && other && (far.get(other) ?? Infinity) < (far.get(site) ?? -1))
        feeders.set(site, [...(feeders.get(site) ?? []), link.id]);
  }
  return feeders;
}
