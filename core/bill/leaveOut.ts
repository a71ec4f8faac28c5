import { endOf, type Link, type Radio, type World } from "../plan";
import { billOf, type Bill } from "./bill";

/** Something that can wait, and what is not spent meanwhile. */
export interface CanWait {
  kind: "unserved" | "spares" | "customer";
  /** The link that waits; null for spares. */
  linkId: string | null;
  name: string;
  savesEur: number;
  /** What the customer asks for, toward him, Mbit/s. */
  demandMbps: number;
}

/**
 * What to leave out first so that a bill falls by `overEur`: customers whom the plan does not serve as it stands, the dearest first; then
 * spares, which can follow; then customers who cost most for each Mbit/s that they ask for. Ends where enough is saved. What is used up by
 * the whole plan, such as tapes and tools, is counted as staying.
 */
export function leaveOut(world: World, bill: Bill, isServed: (linkId: string) => boolean, overEur: number): CanWait[] {
  const costs = new Map<string, number>();
  const customers = [...world.links.values()].flatMap((link) => customerOf(world, link, costs));
  const unserved = customers.filter(({ linkId }) => !isServed(linkId!)).sort((x, y) => y.savesEur - x.savesEur);
  const perMbps = ({ savesEur, demandMbps }: CanWait) => savesEur / Math.max(demandMbps, LEAST_DEMAND_MBPS);
  const served = customers.filter(({ linkId }) => isServed(linkId!)).sort((x, y) => perMbps(y) - perMbps(x));
  const first = [...unserved.map((one): CanWait => ({ ...one, kind: "unserved" })), ...sparesOf(bill), ...served];
  let saved = 0;
  const enough = first.findIndex(({ savesEur }) => (saved += savesEur) >= overEur);
  return overEur <= 0 ? [] : first.slice(0, enough < 0 ? first.length : enough + 1);
}
const LEAST_DEMAND_MBPS = 0.1;

/** Spares, as far as leaving them out saves whole packs. */
function sparesOf({ lines }: Bill): CanWait[] {
  const savesEur = lines.reduce((sum, { needed, packOf, packs, priceEur }) => {
    const without = Math.ceil(needed / packOf);
    return sum + (packs === 0 ? 0 : (priceEur / packs) * (packs - without));
  }, 0);
  return savesEur > 0 ? [{ kind: "spares", linkId: null, name: "All spares", savesEur, demandMbps: 0 }] : [];
}

function customerOf(world: World, link: Link, costs: Map<string, number>): CanWait[] {
  const { radio, placeName, demand } = endOf(world, link.bRadioId);
  if (radio.subscriberId === null) return [];
  const savesEur = ownCostEur(world, radio, costs);
  return [{ kind: "customer", linkId: link.id, name: placeName, savesEur, demandMbps: demand?.downMbps ?? 0 }];
}

/** What one radio's own kit costs by the piece and metre: it and its antenna, bracket, cable, plugs, arresters and injector. */
function ownCostEur(world: World, radio: Radio, costs: Map<string, number>): number {
  const { radioModelId, antennaModelId, bracketId, cableKind, injector, arresters, jumperM } = radio;
  const runM = radio.ethernetM + radio.indoorM;
  const key = [radioModelId, antennaModelId, bracketId, cableKind, injector, arresters, jumperM, runM].join(" ");
  const known = costs.get(key);
  if (known !== undefined) return known;
  const cost = billOf(world, [radio], []).lines.reduce(
    (sum, { kind, needed, packOf, packs, priceEur }) =>
      kind === "tool" || kind === "tape" ? sum : sum + (needed / packOf) * (priceEur / packs),
    0,
  );
  costs.set(key, cost);
  return cost;
}
