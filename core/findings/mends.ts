import type { ProfileSource } from "../outcome";
import { linkEnds, type World } from "../plan";
import { addedEur, trialOf, type Change } from "../trial";
import { elsewhere, higher, stronger } from "./linkChanges";
import { checkOf } from "./checks";
import { faultsOf } from "./faults";

/** A change that lets a customer carry more in the time that he takes. */
export interface Mend extends Change {
  /** The access point that then serves him. */
  sectorId: string;
  downMbps: number;
  upMbps: number;
  isServed: boolean;
  /** Change of the plan's price. */
  costEur: number;
}

/**
 * What would make a slow customer faster: what mends a fault of his link, power that the caps leave, a larger antenna, height, another
 * access point. Each is answered in
 * full; only what speeds one direction up and slows none down is told, fastest first and of equals the cheapest. Throws RangeError for a
 * link that ends at no customer.
 */
export function mendsOf(world: World, linkId: string, between: ProfileSource): Mend[] {
  const link = world.links.get(linkId);
  const subscriberId = link && world.radios.get(link.bRadioId)?.subscriberId;
  if (!link || !subscriberId) throw new RangeError(`There is no customer's link "${linkId}" in the plan.`);
  const before = trialOf(world, between);
  const answer = before.answer(linkId);
  const { a, b } = linkEnds(world, link);
  const bench = { world, link, a, b, answer, profileBetween: between };
  const now = before.rates(linkId);
  const found = faultsOf(world, link, answer, null).flatMap((fault) => [
    ...(checkOf(fault.check).candidates?.(bench, fault) ?? []),
  ]);
  const seen = new Set<string>();
  const changes = [...found, ...stronger(bench), ...higher(bench), ...elsewhere(bench)].filter(({ label }) => {
    const isNew = !seen.has(label);
    seen.add(label);
    return isNew;
  });
  const mends = changes.flatMap(({ label, patches }): Mend[] => {
    const after = before.after(patches);
    const { downMbps, upMbps } = after.rates(linkId);
    const isNoFaster = downMbps + upMbps <= now.downMbps + now.upMbps;
    if (downMbps < now.downMbps || upMbps < now.upMbps || isNoFaster) return [];
    const sectorId = after.world.links.get(linkId)!.aRadioId;
    return [
      {
        label,
        patches,
        sectorId,
        downMbps,
        upMbps,
        isServed: after.isServed(linkId),
        costEur: addedEur(before, after),
      },
    ];
  });
  return mends.sort((x, y) => y.downMbps - x.downMbps || x.costEur - y.costEur);
}
