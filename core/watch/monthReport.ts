import { linkName, type Alarm, type World } from "../plan";
import { CAUSES, type CauseKind } from "./causes";
import { monthName, type LinkWatch } from "./summary";

/** How much of the hours that were asked somebody was heard of, and in how many of those it carried half of what was promised or more. */
interface Share {
  name: string;
  upPercent: number;
  goodPercent: number;
}

/** A month of the network as it is told on paper; plain data. */
export interface MonthReport {
  planName: string;
  /** "2026-11". */
  name: string;
  isSimulated: boolean;
  /** Over all links; null where nothing was asked. */
  upPercent: number | null;
  sites: (Share & { links: number })[];
  /** The worst first, at most `MOST_LINKS` of `linksInAll`. */
  links: (Share &
    Pick<LinkWatch["promised"], "availabilityBound" | "worstMonthPercent"> & { deviationDb: number | null })[];
  linksInAll: number;
  /** What strayed, a sentence each. */
  alarms: string[];
}

const MOST_LINKS = 300;

/** What was delivered in one month (counted from 1970) of each link, by site what that makes, and what strayed. */
export function monthReport(
  world: World,
  { month, links, isSimulated }: { month: number; links: readonly LinkWatch[]; isSimulated: boolean },
): MonthReport {
  const name = monthName(month);
  const asked = links
    .flatMap((link) => {
      const hours = link.months.find((each) => each.month === month);
      return hours && hours.hoursAsked > 0 ? [{ link, hours }] : [];
    })
    .map(({ link, hours }) => ({
      link,
      hours,
      upPercent: percent(hours.hoursUp, hours),
      goodPercent: percent(hours.hoursGood, hours),
    }))
    .sort((x, y) => x.upPercent - y.upPercent || x.goodPercent - y.goodPercent);
  const bySite = new Map<string, { hoursAsked: number; hoursUp: number; hoursGood: number; links: number }>();
  for (const { link, hours } of asked) {
    const siteId = world.radios.get(world.links.get(link.linkId)!.aRadioId)?.siteId ?? "";
    const sum = bySite.get(siteId) ?? { hoursAsked: 0, hoursUp: 0, hoursGood: 0, links: 0 };
    bySite.set(siteId, {
      hoursAsked: sum.hoursAsked + hours.hoursAsked,
      hoursUp: sum.hoursUp + hours.hoursUp,
      hoursGood: sum.hoursGood + hours.hoursGood,
      links: sum.links + 1,
    });
  }
  const sums = [...bySite.values()];
  const hoursAsked = sums.reduce((sum, one) => sum + one.hoursAsked, 0);
  const hoursUp = sums.reduce((sum, one) => sum + one.hoursUp, 0);
  return {
    planName: world.plan.name,
    name,
    isSimulated,
    upPercent: hoursAsked > 0 ? percent(hoursUp, { hoursAsked }) : null,
    sites: [...bySite].map(([siteId, sum]) => ({
      name: world.sites.get(siteId)?.name ?? "no site",
      links: sum.links,
      upPercent: percent(sum.hoursUp, sum),
      goodPercent: percent(sum.hoursGood, sum),
    })),
    links: asked.slice(0, MOST_LINKS).map(({ link, hours, upPercent, goodPercent }) => ({
      name: linkName(world, link.linkId),
      upPercent,
      goodPercent,
      availabilityBound: link.promised.availabilityBound,
      worstMonthPercent: link.promised.worstMonthPercent,
      deviationDb: hours.deviationDb,
    })),
    linksInAll: asked.length,
    alarms: [...world.alarms.values()]
      .filter(
        ({ raisedDay, endedDay }) => raisedDay.slice(0, 7) <= name && (endedDay === "" || endedDay.slice(0, 7) >= name),
      )
      .map((alarm) => alarmText(world, alarm)),
  };
}

const percent = (hours: number, { hoursAsked }: { hoursAsked: number }): number => (100 * hours) / hoursAsked;

function alarmText(world: World, { linkId, linkIds, sinceDay, what, causes, state, closedWhy }: Alarm): string {
  const link = world.links.has(linkId) ? linkName(world, linkId) : linkId;
  const others = linkIds.length > 1 ? ` and ${linkIds.length - 1} more` : "";
  const [first] = causes;
  const title = first && (CAUSES[first.cause as CauseKind]?.title ?? first.cause).toLowerCase();
  const likely = first ? `; likely ${title} (${Math.round(first.odds * 100)} %)` : "";
  return `${link}${others}: since ${sinceDay} ${what}${likely}; ${state === "closed" ? `closed, ${closedWhy}` : state}.`;
}
