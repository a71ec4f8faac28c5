import type { Pointing } from "../aiming";
import { availabilityOf, commonChains, fadingPathOf, type LinkAnswer } from "../link";
import { linkEnds, type Link, type World } from "../plan";
import { pathLeaves } from "../link";
import type { Off, WatchedLink } from "./watched";

/** What a link promises by its tapes, for the watch to hold deliveries against; null where its path has no answer. */
export function watchedOf(world: World, link: Link, { path, distanceM }: LinkAnswer): WatchedLink | null {
  if (!path) return null;
  const { a, b } = linkEnds(world, link);
  const { aToB, bToA, aPointing, bPointing } = path;
  const leaves = pathLeaves(world.plan, { a, b }, path);
  // What was learned of trees in leaf comes and goes with the leaves.
  const leafDb = leaves.leafDb - leaves.leafLearnedDb;
  // Levels are held against bare trees, and leaves put on by the day.
  const leavesInTapeDb = world.plan.season === "inLeaf" ? leafDb : 0;
  const fading = fadingPathOf(world.plan, { a, b }, path, distanceM);
  const weaker = aToB.fadeMarginDb <= bToA.fadeMarginDb ? aToB : bToA;
  const promised = availabilityOf(fading, weaker.fadeMarginDb);
  const isSolar = ({ radio }: typeof a) => world.sites.get(radio.siteId ?? "")?.power === "solar";
  return {
    linkId: link.id,
    chains: commonChains(a, b) > 1 ? 2 : 1,
    levelDbm: { a: bToA.chainLevelDbm + leavesInTapeDb, b: aToB.chainLevelDbm + leavesInTapeDb },
    noiseDbm: { a: bToA.noiseDbm, b: aToB.noiseDbm },
    rateMbps: { a: bToA.rateMbps, b: aToB.rateMbps },
    bandDb: world.plan.proofDeviationDb,
    latDeg: a.place.latDeg,
    leafDb,
    offDeg: { a: offOf(aPointing), b: offOf(bPointing) },
    isSolar: { a: isSolar(a), b: isSolar(b) },
    availabilityPercent: promised.availabilityPercent,
    worstMonthPercent: promised.worstMonthAvailabilityPercent,
    availabilityBound: promised.availabilityBound,
  };
}

const offOf = ({ azimuthOffDeg, elevationOffDeg }: Pointing): Off => ({
  azimuthDeg: azimuthOffDeg,
  elevationDeg: elevationOffDeg,
});
