import { inverseGeodesic } from "../geodesy";
import { keepOneTime, raisedByDb, receivedShare } from "../link";
import { endOf, type LinkEnd, type Radio, type World } from "../plan";
import { thermalNoiseDbm } from "../propagation";
import { listensOnMHz, sendsOnMHz } from "../radio";
import { channelsMeet } from "../spectrum";
import { couplingOf, type Coupling } from "./coupling";

/** An antenna on a mast and where it looks; a heading of null looks all round or nowhere. */
export interface OnMast {
  end: LinkEnd;
  headingDeg: number | null;
  /** An access point or near bridge end, or one without a link yet: in FDD and in a sync group the far ends do the opposite. */
  isNear: boolean;
}

/** What one transmitter of a mast does to one receiver beside it. */
interface MastPair extends Coupling {
  fromId: string;
  toId: string;
  /** What of the transmitter's power falls into the receiver's channel, dB, 0 or less; null for channels too far apart to meet. */
  channelDb: number | null;
  /** Power that arrives in the receiver's channel on one chain, dBm, and what it raises the receiver's noise by while it sends, dB. */
  arrivingDbm: number | null;
  raisesDb: number;
  /** They send and listen at the same times. */
  isTimed: boolean;
}

/** The radios of a site from the top down, with their headings: those that aim at a far end look there. */
export function radiosOnMast(world: World, siteId: string): OnMast[] {
  return hung(world, (radio) => radio.siteId === siteId);
}

/** What hangs on all masts of a plan, looked through once. */
export function radiosOnMasts(world: World): OnMast[] {
  return hung(world, ({ siteId }) => siteId !== null);
}

function hung(world: World, isOne: (radio: Radio) => boolean): OnMast[] {
  const mates = new Map<string, string>();
  const farEnds = new Set<string>();
  for (const { aRadioId, bRadioId } of world.links.values()) {
    farEnds.add(bRadioId);
    if (!mates.has(aRadioId)) mates.set(aRadioId, bRadioId);
    if (!mates.has(bRadioId)) mates.set(bRadioId, aRadioId);
  }
  return [...world.radios.values()]
    .filter((radio) => isOne(radio) && world.antennaModels.has(radio.antennaModelId))
    .map((radio) => {
      const end = endOf(world, radio.id);
      const mate = mates.get(radio.id);
      const isAllRound = end.antenna.shape === "omni";
      const headingDeg =
        radio.azimuthDeg ??
        (mate === undefined || isAllRound ? null : inverseGeodesic(end.place, endOf(world, mate).place).azimuthDeg);
      return { end, headingDeg, isNear: !farEnds.has(radio.id) };
    })
    .sort((x, y) => y.end.radio.heightM - x.end.radio.heightM || (x.end.radio.name < y.end.radio.name ? -1 : 1));
}

/** Every radio of a mast against every other, the one that is raised most first. */
export function mastPairs(hung: readonly OnMast[]): MastPair[] {
  const pairs = hung.flatMap((from) => hung.flatMap((to) => (from === to ? [] : [pairOf(from, to)])));
  return pairs.sort((x, y) => y.raisesDb - x.raisesDb || x.isolationDb - y.isolationDb);
}

function pairOf(from: OnMast, to: OnMast): MastPair {
  const { radio, model } = to.end;
  const { widthMHz, txPowerDbm, cableLossDb } = from.end.radio;
  const frequencyMHz = sendsOnMHz(from.end.model, from.end.radio.frequencyMHz, from.isNear);
  const listensMHz = listensOnMHz(model, radio.frequencyMHz, to.isNear);
  const heading = (one: OnMast, other: OnMast) => one.headingDeg ?? other.headingDeg ?? 0;
  const coupling = couplingOf(from.end, heading(from, to), to.end, heading(to, from), frequencyMHz);
  const timed = ({ end, isNear }: OnMast) => ({ timingGroup: end.radio.timingGroup, isNear });
  const pair = {
    ...{ fromId: from.end.radio.id, toId: radio.id, ...coupling },
    isTimed: keepOneTime(timed(from), timed(to)),
  };
  const sends = { frequencyMHz, widthMHz };
  if (!channelsMeet(sends, { frequencyMHz: listensMHz, widthMHz: radio.widthMHz }))
    return { ...pair, channelDb: null, arrivingDbm: null, raisesDb: 0 };
  const { channelDb, sumDb } = receivedShare(from.end, to.end, sends, listensMHz);
  const arrivingDbm = txPowerDbm - cableLossDb - coupling.isolationDb + sumDb;
  const noiseDbm = thermalNoiseDbm({ bandwidthMHz: radio.widthMHz, noiseFigureDb: model.noiseFigureDb });
  return { ...pair, channelDb, arrivingDbm, raisesDb: raisedByDb(arrivingDbm, noiseDbm) };
}

/** Isolation that is worth a climb, dB. */
const WORTH_DB = 3;
const STEP_M = 0.5;

/** A mast whose antennas stand closer than they need: heights that use all of it, and what the worst pair gains by them. */
interface Respacing {
  heights: { radioId: string; heightM: number }[];
  worstNowDb: number;
  worstThenDb: number;
}

/**
 * The antennas of a mast spread evenly in their order from the lowest one's height to the top of the structure, to the half metre; null
 * where that buys less than 3 dB for the worst pair whose channels meet. Lower antennas may see less: their links are answered anew in
 * hand.
 */
export function respacing(hung: readonly OnMast[], structureHeightM: number): Respacing | null {
  if (hung.length < 2) return null;
  const lowestM = Math.min(...hung.map(({ end }) => end.radio.heightM));
  const topM = Math.max(structureHeightM, ...hung.map(({ end }) => end.radio.heightM));
  const apartM = (topM - lowestM) / (hung.length - 1);
  const spread = hung.map((one, i): OnMast => {
    const heightM = i === 0 ? topM : Math.round((topM - i * apartM) / STEP_M) * STEP_M;
    return { ...one, end: { ...one.end, radio: { ...one.end.radio, heightM } } };
  });
  const worst = (some: readonly OnMast[]) =>
    Math.min(...mastPairs(some).flatMap(({ isolationDb, channelDb }) => (channelDb === null ? [] : [isolationDb])));
  const [worstNowDb, worstThenDb] = [worst(hung), worst(spread)];
  if (!Number.isFinite(worstNowDb) || worstThenDb - worstNowDb < WORTH_DB) return null;
  const heights = spread.map(({ end: { radio } }) => ({ radioId: radio.id, heightM: radio.heightM }));
  return { heights, worstNowDb, worstThenDb };
}
