import { M_PER_DEG, destination, inverseGeodesic, type Place } from "../geodesy";
import { tiltDownDeg } from "../aiming";
import type { Answers } from "../evaluate";
import type { OwnNoise } from "../link";
import type { ProfileSource } from "../outcome";
import type { Link, Site, World } from "../plan";
import { EARTH_RADIUS_KM } from "../propagation";
import { sectorCustomer, type SectorCustomer } from "./customers";

/** Somebody near a site. */
export interface Neighbour {
  subscriberId: string;
  bearingDeg: number;
  distanceM: number;
  /** Angle below the horizontal from the site's sectors to an antenna as high as he lets one stand, degrees; null over unknown ground. */
  tiltDownDeg: number | null;
}

/** A site as its sectors see it. */
export interface SiteAround {
  siteId: string;
  /** Of the highest sector, or of the structure where none stands yet, above ground, m. */
  heightM: number;
  /** How far the circle reaches, m. */
  radiusM: number;
  neighbours: Neighbour[];
  /** Nearest ones that are drawn; how many stand within the circle. */
  neighbourCount: number;
  /** Of each access link of the site. */
  customers: SectorCustomer[];
  /** What each of its sectors hears of the plan's other transmitters. */
  heard: [radioId: string, OwnNoise][];
  /** The ground's highest angle above the horizontal, degrees, every `HORIZON_STEP_DEG` of bearing from north; null over unknown ground. */
  horizonDeg: (number | null)[];
}

export const HORIZON_STEP_DEG = 3;
/** Nearest neighbours that are told. */
const MOST_NEIGHBOURS = 1500;
/** The circle reaches so far past the farthest customer, and at least so far, m. */
const PAST_FARTHEST = 1.25;
const LEAST_RADIUS_M = 500;
/** Without a customer anybody within this is a neighbour, m. */
const RADIUS_WITHOUT_M = 6000;

/** Access links whose near end stands at a site. */
export function accessLinksAt(world: World, siteId: string): Link[] {
  return [...world.links.values()].filter(
    ({ kind, aRadioId }) => kind === "access" && world.radios.get(aRadioId)?.siteId === siteId,
  );
}

/** Everything that the rose and the elevation view of a site show. `heightAt` gives the ground's height, NaN where unknown. */
export function siteAround(
  world: World,
  site: Site,
  { answers, heardNear }: Pick<Answers, "answers" | "heardNear">,
  heightAt: (place: Place) => number,
  between: ProfileSource,
): SiteAround {
  const sectors = [...world.radios.values()].filter(({ siteId, role }) => siteId === site.id && role === "sector");
  const heightM = sectors.length > 0 ? Math.max(...sectors.map((one) => one.heightM)) : site.structureHeightM;
  const customers = accessLinksAt(world, site.id).flatMap((link) => {
    const answer = answers.get(link.id);
    return (answer && sectorCustomer(world, link, answer)) ?? [];
  });
  const farthestM = Math.max(0, ...customers.map(({ distanceM }) => distanceM));
  const radiusM = farthestM > 0 ? Math.max(LEAST_RADIUS_M, farthestM * PAST_FARTHEST) : RADIUS_WITHOUT_M;
  const { kFactor } = world.plan;
  const headAmslM = heightAt(site) + heightM;
  const within = [...world.subscribers.values()]
    .filter((one) => isWithinRoughly(site, one, radiusM))
    .map((one) => ({ one, line: inverseGeodesic(site, one) }))
    .filter(({ line }) => line.distanceM <= radiusM && line.distanceM > 0)
    .sort((x, y) => x.line.distanceM - y.line.distanceM);
  const neighbours = within.slice(0, MOST_NEIGHBOURS).map(({ one, line }): Neighbour => {
    const tilt = tiltDownDeg(headAmslM, heightAt(one) + one.maxHeightM, line.distanceM, kFactor);
    return {
      subscriberId: one.id,
      bearingDeg: line.azimuthDeg,
      distanceM: line.distanceM,
      tiltDownDeg: Number.isFinite(tilt) ? tilt : null,
    };
  });
  const horizonDeg = Array.from({ length: 360 / HORIZON_STEP_DEG }, (_, i) =>
    horizonToward(site, i * HORIZON_STEP_DEG, { heightM, radiusM, kFactor }, between),
  );
  const heard = sectors.flatMap(({ id }): [string, OwnNoise][] => {
    const hearing = heardNear.get(id);
    return hearing ? [[id, hearing.noise]] : [];
  });
  return { siteId: site.id, heightM, radiusM, neighbours, neighbourCount: within.length, customers, heard, horizonDeg };
}

/** A quick look before the geodesic: never false within the radius. */
function isWithinRoughly(site: Place, one: Place, radiusM: number): boolean {
  const reachDeg = (radiusM * 1.02) / M_PER_DEG;
  if (Math.abs(one.latDeg - site.latDeg) > reachDeg) return false;
  const eastDeg = Math.abs(((one.lonDeg - site.lonDeg + 540) % 360) - 180);
  return eastDeg * Math.cos((Math.min(89, Math.abs(site.latDeg) + reachDeg) * Math.PI) / 180) <= reachDeg;
}

/** The highest angle above the horizontal at which the ground stands in one direction, the earth's bulge counted. */
function horizonToward(
  site: Site,
  bearingDeg: number,
  { heightM, radiusM, kFactor }: { heightM: number; radiusM: number; kFactor: number },
  between: ProfileSource,
): number | null {
  const { groundAmslM, coverHeightM, distancesKm } = between(site, destination(site, bearingDeg, radiusM));
  const headAmslM = groundAmslM[0]! + heightM;
  let highest = -Infinity;
  for (let i = 1; i < distancesKm.length; i++) {
    const km = distancesKm[i]!;
    const overM = groundAmslM[i]! + coverHeightM[i]! - headAmslM;
    // What falls away from the level line: half the distance squared over the effective earth's radius.
    const slope = overM / (km * 1000) - km / (2 * kFactor * EARTH_RADIUS_KM);
    if (slope > highest) highest = slope;
  }
  return Number.isFinite(highest) && Number.isFinite(headAmslM) ? (Math.atan(highest) * 180) / Math.PI : null;
}
