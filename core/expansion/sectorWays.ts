import { sectorAirtime } from "../capacity";
import type { LinkAnswer } from "../link";
import type { ProfileSource } from "../outcome";
import { linksOn, endOf, mountsLeft, type Link, type World } from "../plan";
import { trialOf, type Remedy, type Trial } from "../trial";
import { counted } from "../words";
import { ontoSecondSite, secondSites, splitSector, type Split } from "./splits";

/** Most sectors that one is split into. */
const MOST_SECTORS = 4;
const MOST_REMEDIES = 4;
/** Channels that are tried for each split, the quietest first: from how far masts stand one cannot tell what customers hear. */
const CHANNELS_TRIED = 4;

/** A split that gives everybody enough time, and whether the plan's own transmitters then disturb it. */
interface EnoughTime {
  remedy: Remedy;
  most: number;
  costEur: number;
  hearEachOther: boolean;
}

/** The ground, and the checks that find something in an answered link. */
interface SectorTools {
  profileBetween: ProfileSource;
  checksOf: (world: World, link: Link, answer: LinkAnswer) => string[];
}

/**
 * Ways to give an overloaded access point's customers the time that they ask for: a wider channel, two to four sectors in its
 * place, or both, or a sector for some of them at a second site. Each is tried on every customer; only what serves as many as before with time for all is offered.
 */
export function fullSectorWays(world: World, sectorId: string, { profileBetween, checksOf }: SectorTools): Remedy[] {
  const links = linksOn(world, sectorId);
  const sector = endOf(world, sectorId);
  const clients = links.map(({ bRadioId }) => endOf(world, bRadioId));
  const widths = sector.model.widthsMHz
    .filter((width) => width >= sector.radio.widthMHz && clients.every(({ model }) => model.widthsMHz.includes(width)))
    .sort((x, y) => x - y);
  const before = trialOf(world, profileBetween);
  const summariesOf = (trial: Trial) => new Map(links.map(({ id }) => [id, trial.summary(id)]));
  const rateMbps = new Map(links.map(({ id }) => [id, before.rates(id).downMbps]));
  const summariesBefore = summariesOf(before);
  const servedBefore = links.filter(({ id }) => summariesBefore.get(id)!.served).length;
  const unreachedBefore = sectorAirtime(world, links, summariesBefore).unreached;
  const checksBefore = new Set(links.flatMap((link) => checksOf(world, link, before.answer(link.id))));
  const tried = (split: Split, count: number): EnoughTime | null => {
    const after = before.after(split.patches);
    const then = after.world;
    let hearEachOther = false;
    for (const { id } of links) {
      const fresh = checksOf(then, then.links.get(id)!, after.answer(id)).filter((check) => !checksBefore.has(check));
      if (fresh.some((check) => check !== "ownNoise")) return null;
      hearEachOther ||= fresh.length > 0;
    }
    const summaries = summariesOf(after);
    const served = links.filter(({ id }) => summaries.get(id)!.served).length;
    const airtimes = split.sectorIds.map((id) => sectorAirtime(then, linksOn(then, id), summaries));
    const most = Math.max(...airtimes.flatMap(({ down, up }) => [down, up]));
    // Whoever is cut off asks for no time: that is no way out.
    const unreached = airtimes.reduce((sum, one) => sum + one.unreached, 0);
    if (served < servedBefore || most > 1 || unreached > unreachedBefore) return null;
    const costEur = (count - 1) * (sector.model.priceEur + sector.antenna.priceEur);
    const site = world.sites.get(split.siteId ?? "");
    const left = site ? Math.max(0, mountsLeft(world, site)) : 0;
    const short = site && count - 1 > left ? `; ${site.name} has ${counted(left, "mount")} left` : "";
    const noise = hearEachOther ? "; more is heard of the plan's own transmitters, which is counted in" : "";
    const effect = `${most.toFixed(2)} of the airtime at most; ${served} of ${links.length} customers served (${servedBefore} before)${costEur > 0 ? `; +€${costEur.toFixed(0)}` : ""}${short}${noise}`;
    return {
      remedy: { label: split.label, effect, patches: split.patches, visit: false },
      most,
      costEur,
      hearEachOther,
    };
  };
  const offered: EnoughTime[] = [];
  /** The best of one kind of split, over the quietest channels. */
  const onQuietest = (splitOn: (rank: number) => Split, count: number): EnoughTime | null => {
    const onChannels: EnoughTime[] = [];
    let before = "";
    for (let rank = 0; rank < CHANNELS_TRIED && onChannels.every(({ hearEachOther }) => hearEachOther); rank++) {
      const split = splitOn(rank);
      // Where there are fewer channels than that, the last one has been tried already.
      if (split.label === before) break;
      before = split.label;
      const found = tried(split, count);
      if (found) onChannels.push(found);
    }
    return onChannels.sort(byQuietAndCost)[0] ?? null;
  };
  const offer = (found: EnoughTime | null) => {
    if (found) offered.push(found);
  };
  // Fewer sectors come first: once some number of them is enough, more would only cost more.
  for (let count = 1; count <= MOST_SECTORS && offered.every(({ hearEachOther }) => hearEachOther); count++)
    for (const widthMHz of widths)
      if (count > 1 || widthMHz !== sector.radio.widthMHz)
        offer(onQuietest((rank) => splitSector(world, sector, links, rateMbps, count, widthMHz, rank), count));
  const elsewhere = secondSites(world, sector, links).flatMap((site) => {
    const found = onQuietest((rank) => ontoSecondSite(world, sector, links, rateMbps, site, rank), 2);
    return found ? [found] : [];
  });
  // What stays on the mast comes first: at a second site customers' antennas are turned, and the way there has to carry them.
  const atSecondSite = elsewhere.sort(byQuietAndCost).slice(0, 1);
  const onMast = offered.sort(byQuietAndCost).slice(0, MOST_REMEDIES - atSecondSite.length);
  return [...onMast, ...atSecondSite].map(({ remedy }) => remedy);
}

function byQuietAndCost(x: EnoughTime, y: EnoughTime): number {
  return (
    Number(x.hearEachOther) - Number(y.hearEachOther) ||
    x.costEur - y.costEur ||
    x.remedy.patches.length - y.remedy.patches.length ||
    x.most - y.most
  );
}
