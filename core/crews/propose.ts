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

/**
 * A job for every link that has something to do and no open job yet, those nearest to a feed first. Each waits for the jobs on
 * the bridges that bring its own site the feed: what hangs behind cannot be tried before them.
 */
export function proposeVisits(world: World, newId: () => string): Visit[] {
  const open = new Map<string, string>();
  for (const { id, linkId, state } of world.visits.values()) if (state !== "done") open.set(linkId, id);
  const far = stepsFromFeed(world);
  const siteOf = (radioId: string) => world.radios.get(radioId)?.siteId ?? "";
  const distance = (link: Link) =>
    Math.min(far.get(siteOf(link.aRadioId)) ?? Infinity, far.get(siteOf(link.bRadioId)) ?? Infinity);
  const wanted = [...world.links.values()]
    .filter((link) => workFor(link) !== null && !open.has(link.id))
    .map((link) => ({ link, far: distance(link), isAccess: link.kind === "access" }))
    .sort(
      (x, y) =>
        (x.far === y.far ? 0 : x.far - y.far) ||
        Number(x.isAccess) - Number(y.isAccess) ||
        (x.link.id < y.link.id ? -1 : 1),
    );
  const visits: Visit[] = [];
  for (const { link } of wanted) {
    const work = workFor(link)!;
    const id = newId();
    visits.push({
      ...{ id, planId: world.plan.id, linkId: link.id, work },
      ...{ day: "", startMinute: 8 * 60, minutes: minutesFor(world, link, work) },
      ...{ crewAId: null, crewBId: null, afterIds: feedingVisits(world, link, far, open) },
      ...{ weather: "", powerOff: "notNeeded", climb: "notNeeded", neighboursTold: false, packed: false },
      ...{ state: "planned", stopped: "", notes: "" },
    });
    open.set(link.id, id);
  }
  return visits;
}

/** Open jobs on the bridges over which a link's nearer site is fed. */
function feedingVisits(
  world: World,
  link: Link,
  far: ReadonlyMap<string, number>,
  open: ReadonlyMap<string, string>,
): string[] {
  const siteOf = (radioId: string) => world.radios.get(radioId)?.siteId ?? "";
  const sites = [siteOf(link.aRadioId), siteOf(link.bRadioId)].filter((id) => far.has(id));
  const near = sites.sort((x, y) => far.get(x)! - far.get(y)!)[0];
  if (near === undefined || far.get(near) === 0) return [];
  return [...world.links.values()]
    .filter(({ id, kind, aRadioId, bRadioId }) => {
      if (id === link.id || kind !== "bridge") return false;
      const ends = [siteOf(aRadioId), siteOf(bRadioId)];
      return ends.includes(near) && ends.some((end) => (far.get(end) ?? Infinity) < far.get(near)!);
    })
    .flatMap(({ id }) => open.get(id) ?? [])
    .slice(0, 20);
}
