import type { LinkSummary } from "../outcome";
import { busyOf, type Link, type Subscriber, type World } from "../plan";
import { frameShare } from "../radio";
import { airtimeShare } from "./airtime";
import { yearsUntilFull } from "./busy";

/** How much of a sector's time its customers take at the busy hour, each direction against its own share of the frame. */
interface SectorAirtime {
  down: number;
  up: number;
  /** Customers who ask for something and can get nothing: no time is counted for them. */
  unreached: number;
}

/** One customer's part of a sector's time: what he asks for over what he could get alone. */
export interface CustomerAirtime {
  linkId: string;
  subscriberId: string;
  people: number;
  demandDownMbps: number;
  demandUpMbps: number;
  downMbps: number;
  upMbps: number;
  down: number;
  up: number;
  /** Of the time that all customers of the sector take in its busier direction, 0 to 1. */
  ofAll: number;
  /** Takes at least so much more of the time than of what is asked for: few bits ride on each second of his. */
  isSlow: boolean;
}

/** What a sector has to give, and to whom it goes. */
export interface SectorLoad extends SectorAirtime {
  radioId: string;
  busier: "down" | "up";
  /** Most of the time first. */
  customers: CustomerAirtime[];
  mostCustomers: number;
  /** More customers of the usual kind that would fit, by time and by the radio's limit; null where the plan has no usual one. */
  freeCustomers: number | null;
  /** Until one direction is full as demand grows; null where it does not. */
  fullInYears: number | null;
}

/** A customer is slow who takes half as much time again as others take for as much, and enough of all time to matter. */
const SLOW_TIMES = 1.5;
const SLOW_OF_ALL = 0.05;

const sum = (values: readonly number[]) => values.reduce((total, one) => total + one, 0);
const middle = (values: readonly number[]) => [...values].sort((x, y) => x - y)[values.length >> 1] ?? null;

/** The customers' links of every access point of a plan, by its radio. */
export function accessLinks(world: World): Map<string, Link[]> {
  const bySector = new Map<string, Link[]>();
  for (const link of world.links.values()) {
    if (link.kind !== "access") continue;
    const known = bySector.get(link.aRadioId);
    if (known) known.push(link);
    else bySector.set(link.aRadioId, [link]);
  }
  return bySector;
}

const customerAt = (world: World, radioId: string): Subscriber | undefined =>
  world.subscribers.get(world.radios.get(radioId)?.subscriberId ?? "");

/** Time of each customer of some links who gets something, and how many ask and get nothing. */
function timesOf(
  world: World,
  links: readonly Link[],
  summaries: ReadonlyMap<string, LinkSummary>,
): { times: Omit<CustomerAirtime, "ofAll" | "isSlow">[]; unreached: number } {
  const times: Omit<CustomerAirtime, "ofAll" | "isSlow">[] = [];
  let unreached = 0;
  for (const link of links) {
    const summary = summaries.get(link.id);
    const customer = customerAt(world, link.bRadioId);
    if (!summary || !customer) continue;
    const { demandMbps, demandUpMbps, people } = customer;
    const { downMbps, upMbps } = summary;
    if (downMbps <= 0 || upMbps <= 0) {
      if (demandMbps + demandUpMbps > 0) unreached++;
      continue;
    }
    times.push({
      linkId: link.id,
      subscriberId: customer.id,
      people,
      downMbps,
      upMbps,
      demandDownMbps: demandMbps,
      demandUpMbps,
      down: airtimeShare({ customers: [{ demandMbps, rateMbps: downMbps }] }),
      up: airtimeShare({ customers: [{ demandMbps: demandUpMbps, rateMbps: upMbps }] }),
    });
  }
  return { times, unreached };
}

/** Times of customers at the busy hour, each direction by itself. */
function airtimeOf(
  times: readonly Record<"down" | "up", number>[],
  unreached: number,
  oversubscription: number,
): SectorAirtime {
  const busy = (way: "down" | "up") =>
    busyOf(
      times.map((one) => one[way]),
      oversubscription,
    );
  return { down: busy("down"), up: busy("up"), unreached };
}

/** Airtime of the links of one access point at the busy hour. */
export function sectorAirtime(
  world: World,
  links: readonly Link[],
  summaries: ReadonlyMap<string, LinkSummary>,
): SectorAirtime {
  const { times, unreached } = timesOf(world, links, summaries);
  return airtimeOf(times, unreached, world.plan.oversubscription);
}

/**
 * The fuller direction of a sector's time with one link at other rates, on it already or coming to it; without it where `rates` is null. The
 * others stay as they are.
 */
export function loadWith(
  world: World,
  links: readonly Link[],
  summaries: ReadonlyMap<string, LinkSummary>,
  link: Link,
  rates: { downMbps: number; upMbps: number } | null,
): number {
  const others = links.filter(({ id }) => id !== link.id);
  const known = new Map(others.flatMap(({ id }) => (summaries.has(id) ? [[id, summaries.get(id)!] as const] : [])));
  const own = summaries.get(link.id);
  if (rates && own) known.set(link.id, { ...own, downMbps: rates.downMbps, upMbps: rates.upMbps });
  const { down, up } = sectorAirtime(world, rates ? [...others, link] : others, known);
  return Math.max(down, up);
}

/** The customer that a plan sells most often: the middle of what is asked for. Null where nobody asks for anything. */
export function usualDemand(world: World): { downMbps: number; upMbps: number } | null {
  const asking = [...world.subscribers.values()].filter(
    ({ status, demandMbps }) => status !== "declined" && demandMbps > 0,
  );
  const downMbps = middle(asking.map(({ demandMbps }) => demandMbps));
  return downMbps === null ? null : { downMbps, upMbps: middle(asking.map(({ demandUpMbps }) => demandUpMbps))! };
}

/** What a sector has to give and to whom it goes. Throws RangeError for a radio that the plan does not hold. */
export function sectorLoad(
  world: World,
  radioId: string,
  links: readonly Link[],
  summaries: ReadonlyMap<string, LinkSummary>,
  usual = usualDemand(world),
): SectorLoad {
  const radio = world.radios.get(radioId);
  const model = radio && world.radioModels.get(radio.radioModelId);
  if (!model) throw new RangeError(`There is no sector "${radioId}" in the plan.`);
  const { times, unreached } = timesOf(world, links, summaries);
  const { oversubscription } = world.plan;
  const airtime = airtimeOf(times, unreached, oversubscription);
  const busier = airtime.up > airtime.down ? "up" : "down";
  const [allTime, allDemand] = [sum(times.map((one) => one[busier])), sum(times.map((one) => demandOf(one, busier)))];
  const customers = times
    .map((one): CustomerAirtime => {
      const ofAll = allTime > 0 ? one[busier] / allTime : 0;
      const ofDemand = allDemand > 0 ? demandOf(one, busier) / allDemand : 0;
      const isSlow = times.length > 1 && ofAll >= SLOW_OF_ALL && ofAll >= SLOW_TIMES * ofDemand;
      return { ...one, ofAll, isSlow };
    })
    .sort((x, y) => y[busier] - x[busier]);
  return {
    ...airtime,
    radioId,
    busier,
    customers,
    mostCustomers: model.clientLimit,
    freeCustomers: usual && freeFor(usual, times, oversubscription, model.clientLimit - links.length),
    fullInYears: yearsUntilFull(Math.max(airtime.down, airtime.up), world.plan.growthPercent),
  };
}

const demandOf = (
  { demandDownMbps, demandUpMbps }: Pick<CustomerAirtime, "demandDownMbps" | "demandUpMbps">,
  way: "down" | "up",
) => (way === "down" ? demandDownMbps : demandUpMbps);

/** How many usual customers more fit, each at the middle rate of those who are there. */
function freeFor(
  usual: { downMbps: number; upMbps: number },
  times: readonly Pick<CustomerAirtime, "down" | "up" | "downMbps" | "upMbps">[],
  oversubscription: number,
  mostMore: number,
): number | null {
  const rates = { down: middle(times.map(({ downMbps }) => downMbps)), up: middle(times.map(({ upMbps }) => upMbps)) };
  if (rates.down === null || rates.up === null) return null;
  const fits = (way: "down" | "up") => {
    const each = (way === "down" ? usual.downMbps : usual.upMbps) / rates[way]!;
    if (each > 1) return 0;
    const left = oversubscription - sum(times.map((one) => one[way]));
    return each > 0 ? Math.floor(left / each) : Infinity;
  };
  return Math.max(0, Math.min(fits("down"), fits("up"), mostMore));
}

/** Share of the frame toward customers that leaves least to wait for in the fuller direction, in steps of a twentieth. */
interface FrameAdvice {
  /** Carriers that share one frame: those of a timing group, or one alone. */
  carrierIds: string[];
  nowShare: number;
  downShare: number;
  /** Busier direction of the busiest sector, now and then. */
  loadNow: number;
  loadThen: number;
}
const SHARE_STEPS = 20;

/** The frame that would leave least to wait for, for a sector and all who keep time with it; null where each direction has a frequency of its own. */
export function frameAdvice(
  world: World,
  radioId: string,
  summaries: ReadonlyMap<string, LinkSummary>,
  bySector: ReadonlyMap<string, readonly Link[]> = accessLinks(world),
): FrameAdvice | null {
  const own = world.radios.get(radioId);
  if (!own) return null;
  const group = own.timingGroup ?? "";
  const sectors = [...bySector.keys()].flatMap((id) => {
    const radio = world.radios.get(id);
    const model = radio && world.radioModels.get(radio.radioModelId);
    if (!radio || model?.duplex !== "TDD") return [];
    const together = id === radioId || (group !== "" && radio.timingGroup === group);
    return together ? [{ radio, model, ...sectorAirtime(world, bySector.get(id)!, summaries) }] : [];
  });
  const me = sectors.find(({ radio }) => radio.id === radioId);
  if (!me) return null;
  const shareOf = ({ radio, model }: (typeof sectors)[number]) => frameShare(model, "down", radio.downShare ?? null);
  const loadAt = (share: number | null) =>
    Math.max(
      ...sectors.map((one) => {
        const now = shareOf(one);
        const then = share ?? now;
        return Math.max((one.down * now) / then, (one.up * (1 - now)) / (1 - then));
      }),
    );
  let downShare = shareOf(me);
  const loadNow = loadAt(null);
  let loadThen = loadNow;
  for (let step = 1; step < SHARE_STEPS; step++) {
    const load = loadAt(step / SHARE_STEPS);
    if (load < loadThen - 1e-9) [downShare, loadThen] = [step / SHARE_STEPS, load];
  }
  const carrierIds = [...new Set(sectors.map(({ radio }) => radio.carrierId))];
  return { carrierIds, nowShare: shareOf(me), downShare, loadNow, loadThen };
}
