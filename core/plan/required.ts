import { fieldsWith } from "./facts";
import { ROW_KINDS, type Link, type Plan, type Radio, type RowKind, type Site, type Subscriber } from "./kinds";

/** What a link must carry, away from its first end and back, Mbit/s. */
export interface Demand {
  downMbps: number;
  upMbps: number;
}

/** Where a required rate comes from: typed on the link, asked for by customers behind it, or the feed that it brings. */
export interface RequiredRate extends Demand {
  from: "typed" | "behind" | "feed";
}

/**
 * What some customers use together at the busy hour, of what each asks for or of the time that each takes: all of it over the
 * plan's oversubscription, though never less than the largest takes alone.
 */
export function busyOf(each: readonly number[], oversubscription: number): number {
  let [sum, most] = [0, 0];
  for (const one of each) {
    sum += one;
    most = Math.max(most, one);
  }
  return Math.max(most, sum / oversubscription);
}

/** As much of a plan as required rates follow from. */
interface Network {
  plan: Pick<Plan, "oversubscription">;
  sites: ReadonlyMap<string, Site>;
  subscribers: ReadonlyMap<string, Subscriber>;
  radios: ReadonlyMap<string, Radio>;
  links: ReadonlyMap<string, Link>;
}

/** The customer at a link's far end, whatever kind of link brings it; undefined for a link between two sites. */
export const customerOf = (
  { radios, subscribers }: Pick<Network, "radios" | "subscribers">,
  { bRadioId }: Pick<Link, "bRadioId">,
): Subscriber | undefined => subscribers.get(radios.get(bRadioId)?.subscriberId ?? "");

interface Hop {
  link: Link;
  other: string;
}

/**
 * What every bridge must carry: what is typed on it; else what all customers behind it use together at the busy hour, by the fewest hops
 * from a feed; else, with nobody behind it yet, the whole of the feed that it brings. A bridge that no feed of known rate reaches and
 * that serves nobody must carry nothing, and is not in the map.
 */
export function requiredRates(network: Network): Map<string, RequiredRate> {
  const { sites, radios, links, plan } = network;
  const hops = new Map<string, Hop[]>();
  const own = new Map<string, Subscriber[]>();
  const bridges: Link[] = [];
  const add = <T>(to: Map<string, T[]>, key: string, value: T) => {
    const known = to.get(key);
    if (known) known.push(value);
    else to.set(key, [value]);
  };
  for (const link of links.values()) {
    const a = radios.get(link.aRadioId)?.siteId;
    const b = radios.get(link.bRadioId)?.siteId;
    if (a && b && a !== b) {
      bridges.push(link);
      add(hops, a, { link, other: b });
      add(hops, b, { link, other: a });
    } else if (a) {
      const customer = customerOf(network, link);
      if (customer) add(own, a, customer);
    }
  }
  const required = new Map<string, RequiredRate>();
  if (bridges.length === 0) return required;
  const feeds = [...sites.values()].filter(({ isFeed }) => isFeed);
  const feedOf = new Map(feeds.map((feed) => [feed.id, feed]));
  const cameOver = new Map<string, { link: Link; from: string } | null>(feeds.map(({ id }) => [id, null]));
  for (const siteId of cameOver.keys())
    for (const { link, other } of hops.get(siteId) ?? []) {
      if (cameOver.has(other)) continue;
      cameOver.set(other, { link, from: siteId });
      feedOf.set(other, feedOf.get(siteId)!);
    }
  const behind = new Map([...cameOver.keys()].map((id) => [id, [...(own.get(id) ?? [])]]));
  for (const siteId of [...cameOver.keys()].reverse()) {
    const over = cameOver.get(siteId);
    if (!over) continue;
    const customers = behind.get(siteId)!;
    behind.get(over.from)!.push(...customers);
    const feedMbps = feedOf.get(siteId)!.feedMbps;
    const busy = (of: (one: Subscriber) => number) => busyOf(customers.map(of), plan.oversubscription);
    const outward =
      customers.length > 0
        ? { downMbps: busy(({ demandMbps }) => demandMbps), upMbps: busy(({ demandUpMbps }) => demandUpMbps) }
        : { downMbps: feedMbps, upMbps: feedMbps };
    if (outward.downMbps + outward.upMbps === 0) continue;
    const isFromA = radios.get(over.link.aRadioId)?.siteId === over.from;
    const { downMbps, upMbps } = outward;
    required.set(over.link.id, {
      downMbps: isFromA ? downMbps : upMbps,
      upMbps: isFromA ? upMbps : downMbps,
      from: customers.length > 0 ? "behind" : "feed",
    });
  }
  for (const { id, mustDownMbps, mustUpMbps } of bridges) {
    if (mustDownMbps === null && mustUpMbps === null) continue;
    const inherited = required.get(id);
    required.set(id, {
      downMbps: mustDownMbps ?? inherited?.downMbps ?? 0,
      upMbps: mustUpMbps ?? inherited?.upMbps ?? 0,
      from: "typed",
    });
  }
  return required;
}

/** Fields of which required rates are made, by kind; a change to anything else leaves them as they are. */
const MAKES_RATES = new Map(ROW_KINDS.map((kind) => [kind, fieldsWith(kind, "required")]));

/** Whether a patch may change what some bridge must carry. */
export function changesRequired({ kind, set }: { kind: RowKind; set?: object | undefined }): boolean {
  const fields = MAKES_RATES.get(kind)!;
  return fields.size > 0 && (set === undefined || Object.keys(set).some((field) => fields.has(field)));
}
