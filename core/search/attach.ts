import { inverseGeodesic } from "../geodesy";
import type { ProfileSource } from "../outcome";
import { wantedMarginDb, weakestMarginDb } from "../link";
import { mergePatches, type Patch, type Radio, type Subscriber, type World } from "../plan";
import { attachTo, bestSector, choosingIn } from "../propose";
import { trialOf } from "../trial";
import { figure } from "../words";

/** One customer of a list: which sector takes him, or why none does. */
export interface Attached {
  subscriberId: string;
  name: string;
  /** Sector and its site; null where he stays as he is. */
  sector: { radioId: string; name: string; siteName: string } | null;
  downMbps: number;
  upMbps: number;
  marginLeftDb: number | null;
  /** Why nobody takes him; empty where somebody does. */
  why: string;
}

export interface AttachedList {
  customers: Attached[];
  /** Links all who are taken. */
  patches: Patch[];
}

/** Sectors farther off are not asked, and only the nearest sites whose sectors look his way. */
const FARTHEST_KM = 25;
const MOST_SITES_ASKED = 4;

/**
 * Links a list of customers to the sectors that stand: each to the one that serves him at his demand with the best weaker way, answered in
 * full with those before him linked already. Sectors with as many customers as they take are left out. Who is served now keeps his link.
 */
export function attachList(
  world: World,
  subscriberIds: readonly string[],
  between: ProfileSource,
  makeId: () => string,
): AttachedList {
  const before = trialOf(world, between);
  let planned = before;
  let patches: Patch[] = [];
  const choosing = choosingIn(world);
  const linked = new Map<string, number>();
  for (const { aRadioId } of world.links.values()) linked.set(aRadioId, (linked.get(aRadioId) ?? 0) + 1);
  const hasRoom = ({ id, radioModelId }: Radio) =>
    (linked.get(id) ?? 0) < (world.radioModels.get(radioModelId)?.clientLimit ?? Infinity);

  const attached = (subscriber: Subscriber): Attached => {
    const none = {
      subscriberId: subscriber.id,
      name: subscriber.name,
      sector: null,
      downMbps: 0,
      upMbps: 0,
      marginLeftDb: null,
    };
    const own = [...world.links.values()].find(
      ({ bRadioId }) => world.radios.get(bRadioId)?.subscriberId === subscriber.id,
    );
    if (own && before.isServed(own.id)) return { ...none, why: "is served already" };
    const near = [...world.sites.values()]
      .map((site) => ({ site, distanceM: inverseGeodesic(site, subscriber).distanceM }))
      .filter(({ distanceM }) => distanceM > 1 && distanceM <= FARTHEST_KM * 1000)
      .sort((x, y) => x.distanceM - y.distanceM);
    const looking = near.flatMap(({ site }) => bestSector(world, site, subscriber, choosing) ?? []);
    if (looking.length === 0) return { ...none, why: `no sector within ${FARTHEST_KM} km looks this way` };
    const free = looking.filter(hasRoom).slice(0, MOST_SITES_ASKED);
    if (free.length === 0) return { ...none, why: "every sector that looks this way is full" };
    const tries = free.flatMap((sector) => {
      const way = attachTo(planned.world, sector, subscriber, makeId);
      if (!way) return [];
      const after = planned.after(way.patches);
      const answer = after.answer(way.linkId);
      return [{ sector, way, after, answer, isServed: after.isServed(way.linkId), ...after.rates(way.linkId) }];
    });
    const slower = (one: (typeof tries)[number]) => Math.min(one.downMbps, one.upMbps);
    const [best] = tries.filter(({ isServed }) => isServed).sort((x, y) => slower(y) - slower(x));
    const [nearest] = tries;
    if (!best) {
      const marginDb = nearest && weakestMarginDb(nearest.answer);
      const shortDb = marginDb == null ? null : wantedMarginDb(world.plan, nearest!.sector.frequencyMHz) - marginDb;
      const why = !nearest
        ? "the library has no kit for any of those sectors"
        : nearest.answer.state === "blocked"
          ? `blocked toward ${nearest.sector.name}`
          : shortDb !== null && shortDb > 0
            ? `${figure(shortDb)} dB short toward ${nearest.sector.name}`
            : `less than is asked for from ${nearest.sector.name}: ${figure(nearest.downMbps, 0)}/${figure(nearest.upMbps, 0)} Mbit/s`;
      return { ...none, why };
    }
    planned = best.after;
    patches = mergePatches(patches, best.way.patches);
    linked.set(best.sector.id, (linked.get(best.sector.id) ?? 0) + 1);
    const siteName = world.sites.get(best.sector.siteId ?? "")?.name ?? "";
    return {
      ...none,
      sector: { radioId: best.sector.id, name: best.sector.name, siteName },
      downMbps: best.downMbps,
      upMbps: best.upMbps,
      marginLeftDb: weakestMarginDb(best.answer),
      why: "",
    };
  };
  const customers = subscriberIds.flatMap((id) => {
    const subscriber = world.subscribers.get(id);
    return subscriber ? [attached(subscriber)] : [];
  });
  return { customers, patches };
}
