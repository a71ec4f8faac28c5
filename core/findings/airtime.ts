import { accessLinks, sectorAirtime } from "../capacity";
import { inverseGeodesic, normalizeAzimuthDeg, signedAngleDeg } from "../geodesy";
import {
  endOf,
  mergePatches,
  mountsLeft,
  radioPatches,
  setPatch,
  withPatches,
  type Patch,
  type Link,
  type LinkEnd,
  type Radio,
  type World,
} from "../plan";
import { groupLinks, groupOn, quietChannelsMHz } from "../propose";
import type { PlanFault, Remedy, RemedyTools, Thing } from "./checks/check";
import { withPowerInCap } from "../kit";
import { counted } from "../words";
import { answering, summarize, type LinkSummary } from "../outcome";

/** Access points whose customers ask for more time than there is, each with the link to look at first. */
export function airtimeFaults(world: World, summaries: ReadonlyMap<string, LinkSummary>): PlanFault[] {
  return [...accessLinks(world)].flatMap(([sectorId, links]) => {
    const { down, up, unreached } = sectorAirtime(world, links, summaries);
    // One customer alone who asks for more than there is has a finding of his own.
    if (links.length < 2 || Math.max(down, up) <= 1) return [];
    const people = links.reduce((sum, { bRadioId }) => sum + peopleAt(world, bRadioId), 0);
    const left =
      unreached > 0 ? `; ${unreached} more ${unreached === 1 ? "is" : "are"} not reached and not counted` : "";
    const sector = endOf(world, sectorId);
    return {
      about: [{ kind: "radios", id: sectorId }, ...links.map(({ id }): Thing => ({ kind: "links", id }))],
      linkId: slowest(links, summaries).id,
      where: `${sector.radio.name} at ${sector.placeName}`,
      people,
      radioId: sectorId,
      figure: { value: Math.max(down, up), unit: "of the airtime" },
      what: `${links.length} customers ask for ${down.toFixed(1)} times its airtime toward them and ${up.toFixed(1)} times back${left}`,
      why: `What each asks for over the rate each can get, added up${world.plan.oversubscription > 1 ? ` and shared by the plan's oversubscription of ${world.plan.oversubscription}` : ""}, against the share of the frame: at the busy hour all get less than they asked for.`,
      cause: null,
    };
  });
}

const peopleAt = (world: World, radioId: string) =>
  world.subscribers.get(world.radios.get(radioId)?.subscriberId ?? "")?.people ?? 0;

function slowest(links: readonly Link[], summaries: ReadonlyMap<string, LinkSummary>): Link {
  const rate = ({ id }: Link) => summaries.get(id)?.downMbps ?? 0;
  return links.reduce((worst, link) => (rate(link) < rate(worst) ? link : worst));
}

/** Most sectors that one is split into. */
const MOST_SECTORS = 4;
const MOST_REMEDIES = 4;
/** Channels that are tried for each split, the quietest first: from how far masts stand one cannot tell what customers hear. */
const CHANNELS_TRIED = 4;

/** Customers without a rate are taken for this when arcs are cut, Mbit/s. */
const SLOWEST_MBPS = 1;
/** New sectors hang so far below one another: on one mast height is what parts them best, m. */
const SECTOR_SPACING_M = 2;
const LOWEST_SECTOR_M = 4;

interface Split {
  label: string;
  patches: Patch[];
  sectorIds: string[];
}

/** A split that gives everybody enough time, and whether the plan's own transmitters then disturb it. */
interface EnoughTime {
  remedy: Remedy;
  most: number;
  costEur: number;
  hearEachOther: boolean;
}

/**
 * Ways to give an overloaded access point's customers the time that they ask for: a wider channel, two to four sectors in its
 * place, or both. Each is tried on every customer; only what serves as many as before with time for all is offered.
 */
export function airtimeRemedies(world: World, sectorId: string, { profileBetween, checksOf }: RemedyTools): Remedy[] {
  const links = groupLinks(world, sectorId);
  const sector = endOf(world, sectorId);
  const clients = links.map(({ bRadioId }) => endOf(world, bRadioId));
  const widths = sector.model.widthsMHz
    .filter((width) => width >= sector.radio.widthMHz && clients.every(({ model }) => model.widthsMHz.includes(width)))
    .sort((x, y) => x - y);
  const answerNow = answering(world, profileBetween);
  const answered = links.map((link) => ({ link, answer: answerNow(link) }));
  const rateMbps = new Map(answered.map(({ link, answer }) => [link.id, answer.path?.aToB.rateMbps ?? 0]));
  const summariesBefore = new Map(answered.map(({ link, answer }) => [link.id, summarize(world, link, answer)]));
  const servedBefore = links.filter(({ id }) => summariesBefore.get(id)!.served).length;
  const unreachedBefore = sectorAirtime(world, links, summariesBefore).unreached;
  const checksBefore = new Set(answered.flatMap(({ link, answer }) => checksOf(world, link, answer)));
  const tried = (split: Split, count: number): EnoughTime | null => {
    const then = withPatches(world, split.patches);
    const answerThen = answering(then, profileBetween);
    const summaries = new Map<string, LinkSummary>();
    let hearEachOther = false;
    for (const { id } of links) {
      const link = then.links.get(id)!;
      const answer = answerThen(link);
      summaries.set(id, summarize(then, link, answer));
      const fresh = checksOf(then, link, answer).filter((check) => !checksBefore.has(check));
      if (fresh.some((check) => check !== "ownNoise")) return null;
      hearEachOther ||= fresh.length > 0;
    }
    const served = links.filter(({ id }) => summaries.get(id)!.served).length;
    const airtimes = split.sectorIds.map((id) => sectorAirtime(then, groupLinks(then, id), summaries));
    const most = Math.max(...airtimes.flatMap(({ down, up }) => [down, up]));
    // Whoever is cut off asks for no time: that is no way out.
    const unreached = airtimes.reduce((sum, one) => sum + one.unreached, 0);
    if (served < servedBefore || most > 1 || unreached > unreachedBefore) return null;
    const costEur = (count - 1) * (sector.model.priceEur + sector.antenna.priceEur);
    const site = world.sites.get(sector.radio.siteId ?? "");
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
  // Fewer sectors come first: once some number of them is enough, more would only cost more.
  for (let count = 1; count <= MOST_SECTORS && offered.every(({ hearEachOther }) => hearEachOther); count++) {
    for (const widthMHz of widths) {
      if (count === 1 && widthMHz === sector.radio.widthMHz) continue;
      const onChannels: EnoughTime[] = [];
      let before = "";
      for (let rank = 0; rank < CHANNELS_TRIED && onChannels.every(({ hearEachOther }) => hearEachOther); rank++) {
        const split = splitSector(world, sector, links, rateMbps, count, widthMHz, rank);
        // Where there are fewer channels than that, the last one has been tried already.
        if (split.label === before) break;
        before = split.label;
        const found = tried(split, count);
        if (found) onChannels.push(found);
      }
      const [best] = onChannels.sort(byQuietAndCost);
      if (best) offered.push(best);
    }
  }
  return offered
    .sort(byQuietAndCost)
    .slice(0, MOST_REMEDIES)
    .map(({ remedy }) => remedy);
}

function byQuietAndCost(x: EnoughTime, y: EnoughTime): number {
  return (
    Number(x.hearEachOther) - Number(y.hearEachOther) ||
    x.costEur - y.costEur ||
    x.remedy.patches.length - y.remedy.patches.length ||
    x.most - y.most
  );
}

/**
 * One access point's customers by bearing, cut into arcs that ask for about the same, each with a sector of its own on the
 * channel that is `rank` places behind the quietest.
 */
function splitSector(
  world: World,
  sector: LinkEnd,
  links: readonly Link[],
  rateMbps: ReadonlyMap<string, number>,
  count: number,
  widthMHz: number,
  rank: number,
): Split {
  const { radio } = sector;
  const bearingOf = (link: Link) => inverseGeodesic(sector.place, endOf(world, link.bRadioId).place).azimuthDeg;
  const middle = radio.azimuthDeg ?? 0;
  const byBearing = [...links].sort(
    (x, y) => signedAngleDeg(bearingOf(x) - middle) - signedAngleDeg(bearingOf(y) - middle),
  );
  // Arcs are cut by the time that customers take, not by their number: a slow one takes that of several.
  const asked = (link: Link) =>
    (endOf(world, link.bRadioId).demand?.downMbps ?? 0) / Math.max(rateMbps.get(link.id) ?? 0, SLOWEST_MBPS);
  const arcs = evenArcs(byBearing.map(asked), count).map(([from, to]) => byBearing.slice(from, to));
  let planned = world;
  const patches: Patch[] = [];
  const put = (more: Patch[]) => {
    patches.push(...more);
    planned = withPatches(planned, more);
  };
  const sectorIds: string[] = [];
  const onMHz: number[] = [];
  arcs.forEach((arc, i) => {
    const isFirst = i === 0;
    const own: Radio = isFirst
      ? { ...radio }
      : {
          ...radio,
          id: `${radio.id}-${i + 1}`.slice(-64),
          carrierId: `${radio.id}-${i + 1}`.slice(-64),
          name: `${radio.name} ${i + 1}`.slice(0, 120),
          heightM: Math.max(Math.min(radio.heightM, LOWEST_SECTOR_M), radio.heightM - i * SECTOR_SPACING_M),
          address: "",
        };
    if (count > 1) own.azimuthDeg = arcMiddleDeg(arc.map(bearingOf), middle);
    put(radioPatches(planned, own));
    if (!isFirst)
      put(
        arc.flatMap((link) => [
          setPatch("links", link.id, { aRadioId: own.id, state: "planned" }),
          setPatch("radios", link.bRadioId, { carrierId: own.carrierId }),
        ]),
      );
    // Its customers stand where the others' noise will matter too; the quietest channel is sought from its own mast.
    const others: World = { ...planned, radios: new Map(planned.radios) };
    for (const { id, bRadioId } of arc) if (others.links.has(id)) others.radios.delete(bRadioId);
    others.radios.delete(own.id);
    const choices = quietChannelsMHz(others, [sector.place], sector, widthMHz, radio.frequencyMHz, "ptmp");
    const frequencyMHz =
      isFirst && widthMHz === radio.widthMHz ? radio.frequencyMHz : choices[Math.min(rank, choices.length - 1)]!;
    onMHz.push(frequencyMHz);
    put(groupOn(planned, own.id, frequencyMHz, widthMHz));
    const end = endOf(planned, own.id);
    put(radioPatches(planned, withPowerInCap(planned, end, "ptmp")));
    sectorIds.push(own.id);
  });
  const wider = widthMHz === radio.widthMHz ? "" : `, ${widthMHz} MHz wide instead of ${radio.widthMHz}`;
  const channels = `${wider}, at ${onMHz.join(" and ")} MHz`;
  return {
    label:
      count === 1
        ? `Change the channel of ${radio.name}${channels}`
        : `Split ${radio.name} into ${sectorIds.length} sectors by bearing${channels}`,
    patches: mergePatches([], patches),
    sectorIds,
  };
}

/** Loads in a row cut into at most `count` stretches, none empty, so that the heaviest is as light as can be. */
export function evenArcs(loads: readonly number[], count: number): [from: number, to: number][] {
  const arcsUnder = (most: number) => {
    const arcs: [number, number][] = [];
    let from = 0;
    let sum = 0;
    loads.forEach((load, i) => {
      if (i > from && sum + load > most) {
        arcs.push([from, i]);
        from = i;
        sum = 0;
      }
      sum += load;
    });
    return [...arcs, [from, loads.length] as [number, number]];
  };
  // The heaviest stretch is a sum of neighbours: the least of those sums that is enough.
  const sums = loads.flatMap((_, from) => {
    let sum = 0;
    return loads.slice(from).map((load) => (sum += load));
  });
  const least = sums
    .sort((x, y) => x - y)
    .find((most) => most >= Math.max(...loads) && arcsUnder(most).length <= count);
  return arcsUnder(least ?? Infinity);
}

/** The middle of the arc that bearings span, counted about `middle`, whole degrees. */
function arcMiddleDeg(bearingsDeg: readonly number[], middle: number): number {
  const off = bearingsDeg.map((bearing) => signedAngleDeg(bearing - middle));
  return normalizeAzimuthDeg(Math.round(middle + (Math.min(...off) + Math.max(...off)) / 2));
}
