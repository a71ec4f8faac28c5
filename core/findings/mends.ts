import { costOf } from "../bill";
import { answering, isLinkServed, type ProfileSource } from "../outcome";
import { linkEnds, withPatches, type Patch, type World } from "../plan";
import { elsewhere, higher, stronger } from "./candidates";
import { checkOf } from "./checks";
import { faultsOf } from "./faults";

/** A change that lets a customer carry more in the time that he takes. */
export interface Mend {
  label: string;
  patches: Patch[];
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
  const answer = answering(world, between)(link);
  const { a, b } = linkEnds(world, link);
  const bench = { world, link, a, b, answer, profileBetween: between };
  const now = { down: answer.path?.aToB.rateMbps ?? 0, up: answer.path?.bToA.rateMbps ?? 0 };
  const costNowEur = costOf(world);
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
    const then = withPatches(world, patches);
    const changed = then.links.get(linkId)!;
    const after = answering(then, between)(changed);
    const [downMbps, upMbps] = [after.path?.aToB.rateMbps ?? 0, after.path?.bToA.rateMbps ?? 0];
    if (downMbps < now.down || upMbps < now.up || downMbps + upMbps <= now.down + now.up) return [];
    const isServed = isLinkServed(then, changed, after);
    const costEur = costOf(then) - costNowEur;
    return [{ label, patches, sectorId: changed.aRadioId, downMbps, upMbps, isServed, costEur }];
  });
  return mends.sort((x, y) => y.downMbps - x.downMbps || x.costEur - y.costEur);
}
