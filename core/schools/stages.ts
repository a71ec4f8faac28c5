import { mountsLeft, type Radio, type Site, type Subscriber, type SubscriberStatus, type World } from "../plan";
import { counted, figure, listed } from "../words";

/** A sector as a stage of growth: who is there for it today, what it costs, and when it pays. */
interface Stage {
  radioId: string;
  name: string;
  /** Linked customers by how far they have come; whoever declined is left out. */
  byStatus: Partial<Record<SubscriberStatus, number>>;
  customers: number;
  people: number;
  /** What they bring a month, by the plan's tiers. */
  monthEur: number;
  /** Radio, antenna and the work of putting them up; and kit and work of one customer as they are planned here. */
  sectorEur: number;
  customerEur: number;
  /** Customers with whom kit and work are paid within the time asked; null where no number of them does. */
  paysAt: number | null;
  /** Months until those of today have paid for it; null where they never do, or bring nothing. */
  monthsNow: number | null;
}

const priceOf = ({ radioModels, antennaModels }: World, { radioModelId, antennaModelId }: Radio) =>
  (radioModels.get(radioModelId)?.priceEur ?? 0) + (antennaModels.get(antennaModelId)?.priceEur ?? 0);

/** What a customer pays a month by the plan's tiers; a tier that the plan does not price counts as the usual one. */
export function monthEurOf({ plan }: World, { tier }: Pick<Subscriber, "tier">): number {
  return plan.tiers.find(({ name }) => name === tier)?.monthEur ?? plan.usualMonthEur;
}

/** The sectors of a site in the order in which they pay: those first whose customers of today pay for them soonest. */
export function stagesOf(world: World, site: Site, withinMonths: number): Stage[] {
  const { plan } = world;
  const sectors = [...world.radios.values()].filter(({ siteId, role }) => siteId === site.id && role === "sector");
  const stages = sectors.map((sector): Stage => {
    const linked = [...world.links.values()].flatMap(({ aRadioId, bRadioId, kind }) => {
      const radio = aRadioId === sector.id && kind === "access" ? world.radios.get(bRadioId) : undefined;
      const subscriber = world.subscribers.get(radio?.subscriberId ?? "");
      return radio && subscriber && subscriber.status !== "declined" ? [{ radio, subscriber }] : [];
    });
    const byStatus: Stage["byStatus"] = {};
    for (const { subscriber } of linked) byStatus[subscriber.status] = (byStatus[subscriber.status] ?? 0) + 1;
    const sum = (value: (one: (typeof linked)[number]) => number) => linked.reduce((all, one) => all + value(one), 0);
    const monthEur = sum(({ subscriber }) => monthEurOf(world, subscriber));
    const sectorEur = priceOf(world, sector) + plan.sectorWorkEur;
    const ownKitEur = sum(({ radio }) => priceOf(world, radio));
    const customerEur = (linked.length > 0 ? ownKitEur / linked.length : 0) + plan.customerWorkEur;
    const eachEur = linked.length > 0 ? monthEur / linked.length : plan.usualMonthEur;
    const leftEur = eachEur * withinMonths - customerEur;
    const spentEur = sectorEur + ownKitEur + linked.length * plan.customerWorkEur;
    return {
      ...{
        radioId: sector.id,
        name: sector.name,
        byStatus,
        customers: linked.length,
        monthEur,
        sectorEur,
        customerEur,
      },
      people: sum(({ subscriber }) => subscriber.people),
      paysAt: leftEur > 0 ? Math.max(1, Math.ceil(sectorEur / leftEur)) : null,
      monthsNow: monthEur > 0 ? spentEur / monthEur : null,
    };
  });
  return stages.sort(
    (x, y) =>
      (x.monthsNow ?? Infinity) - (y.monthsNow ?? Infinity) || y.people - x.people || (x.name < y.name ? -1 : 1),
  );
}

/** Which sectors to put up now and which later, in words: those that pay within the time, and what the others wait for. */
export function stageWords(world: World, site: Site, stages: readonly Stage[], withinMonths: number): string {
  const priced = stages.filter(({ paysAt }) => paysAt !== null);
  if (priced.length === 0)
    return "Nothing says yet what customers pay a month: price the tiers, or the usual month, in the plan’s settings.";
  const now = priced.filter(({ customers, paysAt }) => customers >= paysAt!);
  const later = priced.filter(({ customers, paysAt }) => customers < paysAt!);
  const names = (some: readonly Stage[]) => listed(some.map(({ name }) => name));
  const first =
    now.length > 0
      ? `Now: ${names(now)}, paid for within ${figure(withinMonths, 0)} months by those who are there.`
      : `None is paid for within ${figure(withinMonths, 0)} months by those who are there.`;
  const waits = later.map(
    ({ name, customers, paysAt }) => `${name} from ${counted(paysAt! - customers, "more customer")} on`,
  );
  const then = later.length > 0 ? ` Later: ${listed(waits)}; leave a mount and a channel for each.` : "";
  const left = mountsLeft(world, site);
  return `${first}${then} ${left >= 0 ? counted(left, "mount") : `${-left} too few mounts`} ${left >= 0 ? "left beside them" : "for all"}.`;
}
