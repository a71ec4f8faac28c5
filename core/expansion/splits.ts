import { inverseGeodesic, normalizeAzimuthDeg, signedAngleDeg, type Place } from "../geodesy";
import { withPowerInCap } from "../kit";
import { fedSites } from "../outcome";
import {
  endOf,
  mergePatches,
  mountsLeft,
  radioPatches,
  setPatch,
  withPatches,
  type Link,
  type LinkEnd,
  type Patch,
  type Radio,
  type Site,
  type World,
} from "../plan";
import { groupOn, quietChannelsMHz } from "../propose";

/** Customers without a rate are taken for this when arcs are cut, Mbit/s. */
const SLOWEST_MBPS = 1;
/** New sectors hang so far below one another: on one mast height is what parts them best, m. */
const SECTOR_SPACING_M = 2;
const LOWEST_SECTOR_M = 4;

/** One access point's customers shared among several. */
export interface Split {
  label: string;
  patches: Patch[];
  /** All that serve them then. */
  sectorIds: string[];
  /** Where the mounts of the new ones are. */
  siteId: string | null;
}

/**
 * One access point's customers by bearing, cut into arcs that ask for about the same, each with a sector of its own on the
 * channel that is `rank` places behind the quietest.
 */
export function splitSector(
  world: World,
  sector: LinkEnd,
  links: readonly Link[],
  rateMbps: ReadonlyMap<string, number>,
  count: number,
  widthMHz: number,
  rank: number,
): Split {
  const { radio } = sector;
  const bearingOf = (link: Link) => inverseGeodesic(sector.place, endOf(world, link.bRadioId).place).azimuthDeg;
  const middle = radio.azimuthDeg ?? 0;
  const byBearing = [...links].sort(
    (x, y) => signedAngleDeg(bearingOf(x) - middle) - signedAngleDeg(bearingOf(y) - middle),
  );
  // Arcs are cut by the time that customers take, not by their number: a slow one takes that of several.
  const arcs = evenArcs(
    byBearing.map((link) => timeAsked(world, link, rateMbps)),
    count,
  ).map(([from, to]) => byBearing.slice(from, to));
  let planned = world;
  const patches: Patch[] = [];
  const put = (more: Patch[]) => {
    patches.push(...more);
    planned = withPatches(planned, more);
  };
  const sectorIds: string[] = [];
  const onMHz: number[] = [];
  arcs.forEach((arc, i) => {
    const isFirst = i === 0;
    const own: Radio = isFirst
      ? { ...radio }
      : {
          ...radio,
          id: `${radio.id}-${i + 1}`.slice(-64),
          carrierId: `${radio.id}-${i + 1}`.slice(-64),
          name: `${radio.name} ${i + 1}`.slice(0, 120),
          heightM: Math.max(Math.min(radio.heightM, LOWEST_SECTOR_M), radio.heightM - i * SECTOR_SPACING_M),
          address: "",
        };
    if (count > 1) own.azimuthDeg = arcMiddleDeg(arc.map(bearingOf), middle);
    put(radioPatches(planned, own));
    if (!isFirst)
      put(
        arc.flatMap((link) => [
          setPatch("links", link.id, { aRadioId: own.id, state: "planned" }),
          setPatch("radios", link.bRadioId, { carrierId: own.carrierId }),
        ]),
      );
    const frequencyMHz =
      isFirst && widthMHz === radio.widthMHz
        ? radio.frequencyMHz
        : quietMHz(planned, own.id, arc, sector.place, sector, widthMHz, rank);
    onMHz.push(frequencyMHz);
    put(groupOn(planned, own.id, frequencyMHz, widthMHz));
    const end = endOf(planned, own.id);
    put(radioPatches(planned, withPowerInCap(planned, end, "ptmp")));
    sectorIds.push(own.id);
  });
  const wider = widthMHz === radio.widthMHz ? "" : `, ${widthMHz} MHz wide instead of ${radio.widthMHz}`;
  const channels = `${wider}, at ${onMHz.join(" and ")} MHz`;
  return {
    label:
      count === 1
        ? `Change the channel of ${radio.name}${channels}`
        : `Split ${radio.name} into ${sectorIds.length} sectors by bearing${channels}`,
    patches: mergePatches([], patches),
    sectorIds,
    siteId: radio.siteId,
  };
}

/**
 * The channel that is `rank` places behind the quietest for an access point and some customers: they stand where the others' noise will
 * matter too, but it is sought from the mast.
 */
function quietMHz(
  planned: World,
  radioId: string,
  served: readonly Link[],
  mast: Place,
  sector: LinkEnd,
  widthMHz: number,
  rank: number,
): number {
  const others: World = { ...planned, radios: new Map(planned.radios) };
  for (const { bRadioId } of served) others.radios.delete(bRadioId);
  others.radios.delete(radioId);
  const choices = quietChannelsMHz(others, [mast], sector, widthMHz, sector.radio.frequencyMHz, "ptmp");
  return choices[Math.min(rank, choices.length - 1)]!;
}

/** Second sites that are tried: the nearest to the customers. */
const MOST_SECOND_SITES = 4;

/** Other sites that a way leads to from the feed and that have a mount left, the nearest to some customers first. */
export function secondSites(world: World, sector: LinkEnd, links: readonly Link[]): Site[] {
  const fed = fedSites(world, () => true);
  const places = links.map(({ bRadioId }) => endOf(world, bRadioId).place);
  const farM = (site: Site) => Math.min(...places.map((place) => inverseGeodesic(site, place).distanceM));
  return [...world.sites.values()]
    .filter((site) => site.id !== sector.radio.siteId && fed.has(site.id) && mountsLeft(world, site) > 0)
    .map((site) => ({ site, nearestM: farM(site) }))
    .sort((x, y) => x.nearestM - y.nearestM)
    .slice(0, MOST_SECOND_SITES)
    .map(({ site }) => site);
}

/**
 * A sector of the same kind at a second site for those customers to whom it is relatively nearest, up to half of the time that all
 * take; it looks at their middle, on the channel that is `rank` places behind the quietest there.
 */
export function ontoSecondSite(
  world: World,
  sector: LinkEnd,
  links: readonly Link[],
  rateMbps: ReadonlyMap<string, number>,
  site: Site,
  rank: number,
): Split {
  const { radio } = sector;
  const distances = new Map(
    links.map((link) => {
      const { place } = endOf(world, link.bRadioId);
      const here = inverseGeodesic(site, place);
      return [link.id, { here, nearer: here.distanceM / inverseGeodesic(sector.place, place).distanceM }];
    }),
  );
  const asked = (link: Link) => timeAsked(world, link, rateMbps);
  const half = links.reduce((sum, link) => sum + asked(link), 0) / 2;
  const moved: Link[] = [];
  let taken = 0;
  for (const link of [...links].sort((x, y) => distances.get(x.id)!.nearer - distances.get(y.id)!.nearer)) {
    if (taken >= half) break;
    moved.push(link);
    taken += asked(link);
  }
  const bearings = moved.map(({ id }) => distances.get(id)!.here.azimuthDeg);
  const id = `${radio.id}-at-${site.id}`.slice(-64);
  const own: Radio = {
    ...radio,
    ...{ id, carrierId: id, siteId: site.id, address: "" },
    name: `${radio.name} at ${site.name}`.slice(0, 120),
    heightM: Math.max(LOWEST_SECTOR_M, Math.min(radio.heightM, site.structureHeightM)),
    azimuthDeg: arcMiddleDeg(bearings, bearings[0]!),
    tiltDownDeg: 0,
  };
  const patches: Patch[] = [];
  let planned = world;
  const put = (more: Patch[]) => {
    patches.push(...more);
    planned = withPatches(planned, more);
  };
  put(radioPatches(planned, own));
  put(
    moved.flatMap((link) => [
      setPatch("links", link.id, { aRadioId: id, state: "planned" }),
      setPatch("radios", link.bRadioId, { carrierId: id, azimuthDeg: null, tiltDownDeg: null }),
    ]),
  );
  const frequencyMHz = quietMHz(planned, id, moved, site, sector, radio.widthMHz, rank);
  put(groupOn(planned, id, frequencyMHz, radio.widthMHz));
  put(radioPatches(planned, withPowerInCap(planned, endOf(planned, id), "ptmp")));
  return {
    label: `Serve ${moved.length} of its customers from ${site.name}: a sector there at ${own.azimuthDeg}°, on ${frequencyMHz} MHz`,
    patches: mergePatches([], patches),
    sectorIds: [radio.id, id],
    siteId: site.id,
  };
}

/** Share of the time that one customer takes. */
const timeAsked = (world: World, link: Link, rateMbps: ReadonlyMap<string, number>) =>
  (endOf(world, link.bRadioId).demand?.downMbps ?? 0) / Math.max(rateMbps.get(link.id) ?? 0, SLOWEST_MBPS);

/** Loads in a row cut into at most `count` stretches, none empty, so that the heaviest is as light as can be. */
export function evenArcs(loads: readonly number[], count: number): [from: number, to: number][] {
  const arcsUnder = (most: number) => {
    const arcs: [number, number][] = [];
    let from = 0;
    let sum = 0;
    loads.forEach((load, i) => {
      if (i > from && sum + load > most) {
        arcs.push([from, i]);
        from = i;
        sum = 0;
      }
      sum += load;
    });
    return [...arcs, [from, loads.length] as [number, number]];
  };
  // The heaviest stretch is a sum of neighbours: the least of those sums that is enough.
  const sums = loads.flatMap((_, from) => {
    let sum = 0;
    return loads.slice(from).map((load) => (sum += load));
  });
  const least = sums
    .sort((x, y) => x - y)
    .find((most) => most >= Math.max(...loads) && arcsUnder(most).length <= count);
  return arcsUnder(least ?? Infinity);
}

/** The middle of the arc that bearings span, counted about `middle`, whole degrees. */
function arcMiddleDeg(bearingsDeg: readonly number[], middle: number): number {
  const off = bearingsDeg.map((bearing) => signedAngleDeg(bearing - middle));
  return normalizeAzimuthDeg(Math.round(middle + (Math.min(...off) + Math.max(...off)) / 2));
}
