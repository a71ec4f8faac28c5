import { inverseGeodesic } from "../geodesy";
import type { ProfileSource } from "../outcome";
import { setPatch, type Patch, type Radio, type Subscriber, type World } from "../plan";
import { attachTo, bestSector, choosingIn } from "../propose";
import { bestHeading, bestTilt, gainTable, headingTable, tiltTable, type GainRow } from "../sectors";
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

/**
 * Changes of one sector that may serve more people or serve them faster, found by tables of full answers of its own customers: antennas
 * and power as great as the caps allow, for what is not needed is taken back by `sparingMoves`.
 */
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
      const txPowerDbm = may.has("power") ? row.mostDbm : Math.min(sector.txPowerDbm, row.mostDbm);
      const move = carrying(sector, row, txPowerDbm, may);
      if (move) yield set(move.words, move.change);
    }
  const mostM = world.sites.get(sector.siteId ?? "")?.structureHeightM ?? 0;
  if (may.has("height"))
    for (let step = 1; step <= HEIGHT_STEPS; step++) {
      const heightM = Math.round((mostM * step * 10) / HEIGHT_STEPS) / 10;
      if (heightM !== sector.heightM) yield set(`height ${figure(sector.heightM)} → ${figure(heightM)} m`, { heightM });
    }
}

/** A sector with an antenna and a power, as far as both may be changed; null where nothing would. */
function carrying(
  sector: Radio,
  row: GainRow,
  txPowerDbm: number,
  may: ReadonlySet<Freedom>,
): { words: string; change: Partial<Radio> } | null {
  const power = `${figure(txPowerDbm, 0)} dBm`;
  if (row.antennaModelId === sector.antennaModelId)
    return may.has("power") && txPowerDbm !== sector.txPowerDbm
      ? { words: `power ${figure(sector.txPowerDbm, 0)} → ${power}`, change: { txPowerDbm } }
      : null;
  const tiltDownDeg = sector.tiltDownDeg === null ? null : row.mechanicalDeg;
  return may.has("antenna")
    ? { words: `${row.antenna} at ${power}`, change: { antennaModelId: row.antennaModelId, txPowerDbm, tiltDownDeg } }
    : null;
}

/** Antennas and powers of a sector by which as many of its customers are served as by any, each at its least power. */
export function sparingMoves(world: World, sector: Radio, may: ReadonlySet<Freedom>, between: ProfileSource): Move[] {
  return gainTable(world, sector.id, between).flatMap((row) => {
    const txPowerDbm = may.has("power") ? row.txPowerDbm : Math.min(sector.txPowerDbm, row.mostDbm);
    const move = carrying(sector, row, txPowerDbm, may);
    return move
      ? [{ words: `${sector.name}: ${move.words}`, patches: [setPatch("radios", sector.id, move.change)] }]
      : [];
  });
}

/** Who is not served yet and may be by a sector of some sites that looks his way: one change for each. */
export function* customerMoves(
  world: World,
  siteIds: readonly string[],
  unserved: readonly Subscriber[],
  makeId: () => string,
): Generator<Move> {
  const choosing = choosingIn(world);
  for (const subscriber of unserved) {
    const sites = siteIds
      .flatMap((id) => world.sites.get(id) ?? [])
      .sort((x, y) => inverseGeodesic(x, subscriber).distanceM - inverseGeodesic(y, subscriber).distanceM)
      .slice(0, MOST_SITES_TRIED);
    for (const site of sites) {
      const sector = bestSector(world, site, subscriber, choosing);
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
