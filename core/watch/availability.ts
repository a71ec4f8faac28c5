import { feedingLinks, nearSite, stepsFromFeed } from "../outcome";
import { customerOf, type World } from "../plan";
import { FEWEST_HOURS, type LinkMonth, type LinkWatch } from "./summary";

/** What some customers got over the months that are known, each of their people counted. */
export interface Availability {
  /** Null for the whole plan. */
  siteId: string | null;
  customers: number;
  people: number;
  /** Share of the hours asked in which their own links were up, and in which they carried half the promised rate or better, per cent. */
  upPercent: number;
  goodPercent: number;
  /** The same as the first, of their worst month of a week or more. */
  worstMonth: { month: number; upPercent: number } | null;
  /**
   * As the first with every bridge on the way to the feed, month by month, as if no two of them were ever down in the same hour: never
   * less than this. Null where a bridge on the way is not watched, or no feed reaches.
   */
  throughPercent: number | null;
}

/** One customer's link with the bridges that it hangs on; null where those are not known. */
interface Customer {
  siteId: string;
  people: number;
  own: LinkWatch;
  way: readonly LinkWatch[] | null;
}

function customersOf(world: World, links: readonly LinkWatch[]): Customer[] {
  const watched = new Map(links.map((one) => [one.linkId, one]));
  const far = stepsFromFeed(world);
  const feeders = feedingLinks(world, far);
  /** The bridges from a site to its feed. A site may have several ways; the first is taken. */
  const wayOf = (siteId: string): LinkWatch[] | null => {
    const way: LinkWatch[] = [];
    for (let at = siteId; (far.get(at) ?? -1) > 0;) {
      const linkId = feeders.get(at)?.[0];
      const bridge = linkId === undefined ? undefined : watched.get(linkId);
      if (!bridge || bridge.months.length === 0) return null;
      way.push(bridge);
      at = nearSite(world, world.links.get(linkId!)!, far)!;
    }
    return far.has(siteId) ? way : null;
  };
  const ways = new Map<string, LinkWatch[] | null>();
  return links.flatMap((own): Customer[] => {
    const link = world.links.get(own.linkId);
    if (!link || !own.months.some(({ hoursAsked }) => hoursAsked > 0)) return [];
    // Of a link that never told anything nobody knows whether it is up.
    if (own.upPercent === null) return [];
    const siteId = world.radios.get(link.aRadioId)?.siteId;
    const subscriber = customerOf(world, link);
    if (!siteId || !subscriber) return [];
    if (!ways.has(siteId)) ways.set(siteId, wayOf(siteId));
    return [{ siteId, people: subscriber.people, own, way: ways.get(siteId)! }];
  });
}

/** Hours may differ by what one look leaves over. */
const SAME_HOURS = 1;

/**
 * The least share of a month in which a link and the bridges before it were up together: all that was asked less every outage of each of
 * them, as if no two ever fell together. Null where one was not watched all the while.
 */
function throughShare(month: LinkMonth, way: readonly LinkWatch[]): number | null {
  let share = month.hoursUp / month.hoursAsked;
  for (const bridge of way) {
    const same = bridge.months.find((one) => one.month === month.month);
    // Of hours in which a bridge was not watched nobody knows whether it was up.
    if (!same || same.hoursAsked < month.hoursAsked - SAME_HOURS) return null;
    share -= (same.hoursAsked - same.hoursUp) / month.hoursAsked;
  }
  return Math.max(0, share);
}

function summed(siteId: string | null, customers: readonly Customer[]): Availability {
  let [asked, up, good, people] = [0, 0, 0, 0];
  let through: { asked: number; up: number } | null = { asked: 0, up: 0 };
  const months = new Map<number, { asked: number; up: number; hours: number }>();
  for (const { own, way, people: heads } of customers) {
    people += heads;
    if (way === null) through = null;
    for (const month of own.months) {
      const { hoursAsked, hoursUp, hoursGood } = month;
      if (hoursAsked === 0) continue;
      asked += heads * hoursAsked;
      up += heads * hoursUp;
      good += heads * hoursGood;
      const sum = months.get(month.month) ?? { asked: 0, up: 0, hours: 0 };
      months.set(month.month, {
        asked: sum.asked + heads * hoursAsked,
        up: sum.up + heads * hoursUp,
        hours: Math.max(sum.hours, hoursAsked),
      });
      const share = way && throughShare(month, way);
      // A bound that left somebody out would be none.
      if (share === null) through = null;
      if (through && share !== null) {
        through.asked += heads * hoursAsked;
        through.up += heads * hoursAsked * share;
      }
    }
  }
  const worst = [...months]
    .filter(([, { hours }]) => hours >= FEWEST_HOURS)
    .map(([month, one]) => ({ month, upPercent: (100 * one.up) / one.asked }))
    .sort((x, y) => x.upPercent - y.upPercent || x.month - y.month)[0];
  return {
    ...{ siteId, customers: customers.length, people },
    ...{ upPercent: (100 * up) / asked, goodPercent: (100 * good) / asked },
    worstMonth: worst ?? null,
    throughPercent: through && through.asked > 0 ? (100 * through.up) / through.asked : null,
  };
}

/** What customers got, by the site that serves them, fewest hours first, and of the whole plan; null for the plan while nobody is watched. */
export function availabilityOf(
  world: World,
  links: readonly LinkWatch[],
): { sites: Availability[]; plan: Availability | null } {
  const customers = customersOf(world, links);
  const bySite = new Map<string, Customer[]>();
  for (const one of customers) {
    const own = bySite.get(one.siteId);
    if (own) own.push(one);
    else bySite.set(one.siteId, [one]);
  }
  const sites = [...bySite].map(([siteId, own]) => summed(siteId, own)).sort((x, y) => x.upPercent - y.upPercent);
  return { sites, plan: customers.length > 0 ? summed(null, customers) : null };
}
