import { flatM, inverseGeodesic } from "../geodesy";
import { airOf } from "../interference";
import { antennasFor, radioModelsFor } from "../kit";
import type { ProfileSource } from "../outcome";
import { putPatch, withPatches, type Site, type World } from "../plan";
import { bestSector, choosingIn, DEFAULT_BRIDGE_MHZ, proposeBridge, proposeSector } from "../propose";
import { headingsFor } from "../schools";
import { tryEach, viewOfSites, type ToTry } from "../search";
import { edgesOf } from "../sectors";
import type { SiteStyle } from "./highGround";

/** Whom a candidate would serve, and what it would cost before it is joined to others. */
export interface SiteReach {
  siteId: string;
  /** Places, in the list of those asked about, of whom it would serve. */
  customers: Uint32Array;
  /** Each one's rate the weaker way, Mbit/s. */
  mbps: Float64Array;
  /** Sectors to be put up for them, beside those that stand. */
  sectors: number;
  /** Of sectors, and of the mast where none stands. */
  costEur: number;
}

const withSites = (world: World, sites: readonly Site[]): World =>
  withPatches(
    world,
    sites.filter(({ id }) => !world.sites.has(id)).map((site) => putPatch("sites", site)),
  );

/** A flat distance longer than a reach by this share lies beyond it on the ellipsoid too. */
const CERTAINLY_BEYOND = 1.02;

/** Every customer within reach of a site, each by a full answer with kit of the library: by the sector that looks there, or a new one. */
export function siteReach(
  world: World,
  site: Site,
  subscriberIds: readonly string[],
  style: SiteStyle,
  between: ProfileSource,
  makeId: () => string,
): SiteReach {
  const isNew = !world.sites.has(site.id);
  const planned = withSites(world, [site]);
  const reachM = style.reachKm * 1000;
  const choosing = choosingIn(planned);
  // One new sector stands for all that none holds: without a heading it looks at whoever is asked about.
  const put = proposeSector(planned, site, "", 0, makeId);
  const aiming = withPatches(
    planned,
    (put ?? []).map((patch) =>
      patch.kind === "radios" && patch.put
        ? putPatch("radios", { ...patch.put, azimuthDeg: null, tiltDownDeg: null })
        : patch,
    ),
  );
  const added = put && aiming.radios.get(put.find(({ kind }) => kind === "radios")!.id)!;
  const toTry: (ToTry & { i: number })[] = [];
  for (let i = 0; i < subscriberIds.length; i++) {
    const subscriber = planned.subscribers.get(subscriberIds[i]!);
    if (!subscriber || flatM(site, subscriber) > CERTAINLY_BEYOND * reachM) continue;
    const way = inverseGeodesic(site, subscriber);
    if (way.distanceM <= 1 || way.distanceM > reachM) continue;
    const sector = bestSector(planned, site, subscriber, choosing, way) ?? added;
    if (sector) toTry.push({ i, subscriber, sector, way });
  }
  /** Each one's rate the weaker way, Mbit/s; not a number where it would not be served. */
  const rates = new Float64Array(subscriberIds.length).fill(NaN);
  const bearings: number[] = [];
  // What is put up for a trial is silent.
  tryEach(aiming, toTry, between, makeId, airOf(planned), ({ i, sector, way }, { path }, isServed) => {
    if (!isServed || !path) return;
    rates[i] = Math.min(path.aToB.rateMbps, path.bToA.rateMbps);
    if (sector === added) bearings.push(way.azimuthDeg);
  });
  const { widthDeg, priceEur } = usualSector(world);
  const sectors = headingsFor(bearings, widthDeg).length;
  const customers = Uint32Array.from(rates.keys()).filter((i) => !Number.isNaN(rates[i]!));
  const mbps = Float64Array.from(customers, (i) => rates[i]!);
  return { siteId: site.id, customers, mbps, sectors, costEur: sectors * priceEur + (isNew ? style.mastEur : 0) };
}

/** The sector that Tejado proposes first: its −6 dB width and its price with the radio. */
function usualSector(world: World): { widthDeg: number; priceEur: number } {
  const antenna = antennasFor(world, "sector", DEFAULT_BRIDGE_MHZ).find(({ shape }) => shape !== "omni");
  const [model] = radioModelsFor(world, "sector", DEFAULT_BRIDGE_MHZ);
  if (!antenna || !model) return { widthDeg: 360, priceEur: 0 };
  const edge = edgesOf(antenna, "HV").find(({ depthDb }) => depthDb === 6)!;
  return { widthDeg: edge.leftDeg + edge.rightDeg, priceEur: antenna.priceEur + model.priceEur };
}

/** Two candidates between which a bridge clears, and the price of its kit. */
export interface Hop {
  i: number;
  j: number;
  costEur: number;
}

/** Every pair of candidates within `joinKm` between which a bridge of the library clears and carries; of the first ones each `of`th alone. */
export function clearHops(
  world: World,
  sites: readonly Site[],
  joinKm: number,
  part: { index: number; of: number },
  between: ProfileSource,
  makeId: () => string,
): Hop[] {
  const planned = withSites(world, sites);
  const air = airOf(planned);
  return sites.flatMap((from, i) => {
    if (i % part.of !== part.index) return [];
    const others = sites.flatMap((to, j) => {
      const { distanceM } = inverseGeodesic(from, to);
      return j > i && distanceM > 1 && distanceM <= joinKm * 1000 ? [{ to, j }] : [];
    });
    const rows = viewOfSites(
      planned,
      from,
      others.map(({ to }) => to),
      between,
      makeId,
      air,
    );
    return others.flatMap(({ to, j }, k): Hop[] =>
      rows[k]!.served && rows[k]!.state === "clear"
        ? [{ i, j, costEur: bridgePriceEur(planned, from, to, makeId) }]
        : [],
    );
  });
}

function bridgePriceEur(world: World, from: Site, to: Site, makeId: () => string): number {
  const radios = (proposeBridge(world, from, to, makeId) ?? []).flatMap(({ kind, put }) =>
    kind === "radios" && put ? [put] : [],
  );
  return radios.reduce(
    (sum, { radioModelId, antennaModelId }) =>
      sum +
      (world.radioModels.get(radioModelId)?.priceEur ?? 0) +
      (world.antennaModels.get(antennaModelId)?.priceEur ?? 0),
    0,
  );
}
