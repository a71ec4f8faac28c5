import { KM_PER_DEG, inverseGeodesic, type Place } from "../geodesy";
import type { ProfileSource } from "../outcome";
import { newMast, type Site, type Subscriber, type World } from "../plan";
import { legShare } from "../search";
import { boundsOf, highPoints, type HeightAt, type HighPoint } from "../terrain";

/** How a set of sites is thought of: how far each may reach, and what is put where nothing stands. */
export interface SiteStyle {
  reachKm: number;
  /** Height and price of a new mast with its power, as it is usual here. */
  mastM: number;
  mastEur: number;
}

/** New masts that are looked at in full. */
const MOST_NEW = 24;
/** Customers by whom high points are judged, and how many points must see one of them before he counts no more. */
const MOST_JUDGES = 240;
const SEEN_OFTEN = 3;
const MOST_BLOCKS = 28;
const STEPS = 6;
/** A high point nearer to a site than this is that site's hill. */
const OWN_HILL_M = 150;
/** Share of the first zone that must be free for a customer to be seen. */
const FREE_SHARE = 0.6;

/**
 * The terrain's best high points for some customers: the highest cell of every block of the ground about them, those kept from which
 * most people are seen who few others see. `powerM` keeps them within so many metres of a house or a site with mains; null takes
 * the sun. Masts that nobody has visited: owner, access and law are not looked at.
 */
export function terrainCandidates(
  world: World,
  wanted: readonly Subscriber[],
  { reachKm, mastM }: SiteStyle,
  powerM: number | null,
  heightAt: HeightAt,
  between: ProfileSource,
  makeId: () => string,
): Site[] {
  if (wanted.length === 0) return [];
  const bounds = boundsOf(wanted, Math.min(reachKm, MOST_MARGIN_KM) * 1000);
  const extentKm = Math.max(bounds[3] - bounds[1], 1e-3) * KM_PER_DEG;
  const blocks = Math.min(MOST_BLOCKS, Math.max(8, Math.ceil((extentKm / reachKm) * BLOCKS_PER_REACH)));
  const judges = wanted.filter((_, i) => i % Math.ceil(wanted.length / MOST_JUDGES) === 0);
  const sites = [...world.sites.values()];
  const mains: Place[] = [...wanted, ...sites.filter(({ power }) => power === "mains")];
  const isNear = (point: Place, some: readonly Place[], withinM: number) =>
    some.some((other) => inverseGeodesic(point, other).distanceM <= withinM);
  const points = highPoints(heightAt, bounds, blocks, STEPS).filter(
    (point) => !isNear(point, sites, OWN_HILL_M) && (powerM === null || isNear(point, mains, powerM)),
  );
  const sees = points.map((point) =>
    judges.flatMap((judge, i) => {
      const { distanceM } = inverseGeodesic(point, judge);
      if (distanceM > reachKm * 1000 || distanceM < 1) return [];
      const share = legShare(point, mastM, judge, judge.antennaHeightM, world.plan.kFactor, between);
      return share !== null && share >= FREE_SHARE ? [i] : [];
    }),
  );
  return bestSpread(points, sees, judges).map((point) =>
    newMast(
      world.plan.id,
      makeId(),
      `New mast ${point.latDeg.toFixed(4)}, ${point.lonDeg.toFixed(4)}`,
      point,
      mastM,
      powerM === null ? "solar" : "mains",
    ),
  );
}
/** Beyond the outermost customers no wider ring is searched than this, km. */
const MOST_MARGIN_KM = 5;
const BLOCKS_PER_REACH = 4;

/** Points that see most people, each customer counting less with every point that sees him already. */
function bestSpread(
  points: readonly HighPoint[],
  sees: readonly number[][],
  judges: readonly Subscriber[],
): HighPoint[] {
  const seenBy = judges.map(() => 0);
  const left = new Set(points.keys());
  const chosen: HighPoint[] = [];
  const worth = (i: number) =>
    sees[i]!.reduce((sum, j) => sum + Math.max(0, 1 - seenBy[j]! / SEEN_OFTEN) * judges[j]!.people, 0);
  while (chosen.length < MOST_NEW && left.size > 0) {
    const best = [...left].reduce((one, other) => (worth(other) > worth(one) ? other : one));
    if (worth(best) <= 0) break;
    left.delete(best);
    chosen.push(points[best]!);
    for (const j of sees[best]!) seenBy[j]!++;
  }
  return chosen;
}
