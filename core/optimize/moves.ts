import { inverseGeodesic } from "../geodesy";
import type { ProfileSource } from "../outcome";
import { radiosBySite, setPatch, type Patch, type Radio, type Subscriber, type World } from "../plan";
import { attachTo, bestSector } from "../propose";
import { bestHeading, bestTilt, gainTable, headingTable, tiltTable } from "../sectors";
import { figure } from "../words";

/** What of a sector may be changed. */
export const FREEDOMS = ["heading", "tilt", "antenna", "power", "height", "customers"] as const;
export type Freedom = (typeof FREEDOMS)[number];

/** One change that may be worth it, in words that explain it. */
export interface Move {
  words: string;
  patches: Patch[];
}

const degrees = (deg: number) => `${figure(deg, 0)}°`;
const HEIGHT_STEPS = 4;

/** Changes of one sector that are worth trying on the whole plan, found by tables of full answers of its own customers. */
export function* sectorMoves(
  world: World,
  sector: Radio,
  may: ReadonlySet<Freedom>,
  between: ProfileSource,
): Generator<Move> {
  const { id, name } = sector;
  const set = (words: string, change: Partial<Radio>): Move => ({
    words: `${name}: ${words}`,
    patches: [setPatch("radios", id, change)],
  });
  if (may.has("heading") && sector.azimuthDeg !== null) {
    const best = bestHeading(headingTable(world, id, between));
    if (best && best.azimuthDeg !== sector.azimuthDeg)
      yield set(`turn ${degrees(sector.azimuthDeg)} → ${degrees(best.azimuthDeg)}`, { azimuthDeg: best.azimuthDeg });
  }
  if (may.has("tilt") && sector.tiltDownDeg !== null) {
    const best = bestTilt(tiltTable(world, id, between));
    if (best && best.mechanicalDeg !== sector.tiltDownDeg)
      yield set(`bracket ${figure(sector.tiltDownDeg)}° → ${figure(best.mechanicalDeg)}° down`, {
        tiltDownDeg: best.mechanicalDeg,
      });
  }
  if (may.has("antenna") || may.has("power"))
    for (const row of gainTable(world, id, between)) {
      const isOwn = row.antennaModelId === sector.antennaModelId;
      const txPowerDbm = may.has("power") ? row.txPowerDbm : Math.min(sector.txPowerDbm, row.mostDbm);
      if (!(isOwn ? may.has("power") && txPowerDbm !== sector.txPowerDbm : may.has("antenna"))) continue;
      const power = `${figure(txPowerDbm, 0)} dBm`;
      const tiltDownDeg = sector.tiltDownDeg === null ? null : row.mechanicalDeg;
      yield isOwn
        ? set(`power ${figure(sector.txPowerDbm, 0)} → ${power}`, { txPowerDbm })
        : set(`${row.antenna} at ${power}`, { antennaModelId: row.antennaModelId, txPowerDbm, tiltDownDeg });
    }
  const mostM = world.sites.get(sector.siteId ?? "")?.structureHeightM ?? 0;
  if (may.has("height"))
    for (let step = 1; step <= HEIGHT_STEPS; step++) {
      const heightM = Math.round((mostM * step * 10) / HEIGHT_STEPS) / 10;
      if (heightM !== sector.heightM) yield set(`height ${figure(sector.heightM)} → ${figure(heightM)} m`, { heightM });
    }
}

/** Who is not served yet and may be by a sector of some sites that looks his way: one change for each. */
export function* customerMoves(
  world: World,
  siteIds: readonly string[],
  unserved: readonly Subscriber[],
  makeId: () => string,
): Generator<Move> {
  const bySite = radiosBySite(world);
  for (const subscriber of unserved) {
    const sites = siteIds
      .flatMap((id) => world.sites.get(id) ?? [])
      .sort((x, y) => inverseGeodesic(x, subscriber).distanceM - inverseGeodesic(y, subscriber).distanceM)
      .slice(0, MOST_SITES_TRIED);
    for (const site of sites) {
      const sector = bestSector(world, site.id, site, subscriber, bySite);
      const isThere =
        sector &&
        [...world.links.values()].some(
          ({ aRadioId, bRadioId }) =>
            aRadioId === sector.id && world.radios.get(bRadioId)?.subscriberId === subscriber.id,
        );
      const way = sector && !isThere ? attachTo(world, sector, subscriber, makeId) : null;
      if (way) yield { words: `link ${subscriber.name} to ${sector!.name}`, patches: way.patches };
    }
  }
}
const MOST_SITES_TRIED = 2;
