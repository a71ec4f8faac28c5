import { partOf, patternLossDb, peakGainDbi } from "../antenna";
import { KM_PER_DEG, inverseGeodesic, signedAngleDeg } from "../geodesy";
import { keepOneTime, receivedShare } from "../link";
import { couplingOf } from "../mast";
import type { LinkEnd } from "../plan";
import { freeSpaceLossDb } from "../propagation";
import { channelsMeet } from "../spectrum";
import { SHORTEST_PATH_M } from "../terrain";
import { gainTowardDbi, type Aim } from "./aims";
import { earOf, type Ear, type Listening, type Talk } from "./listening";
import type { Air, Sender, SenderClass } from "./senders";

/** Transmitters farther away than this are not looked for. */
const FARTHEST_KM = 40;
const RADIANS = Math.PI / 180;

/** A transmitter that may be heard, in free sight. */
export interface Candidate {
  told: Sender["told"];
  turnName: string;
  /** As it was ranked, on a flat map, dBm. */
  flatDbm: number;
  /** Power on one of the receiver's chains with both antennas' elevation at its peak and no ground between, dBm. */
  dbm: number;
  /** Both gains counted in it, dB. */
  gainsDb: number;
  fromAim: Aim;
  toAim: Aim;
  /** Where it stands from the receiver, degrees; null on the receiver's own mast. */
  bearingDeg: number | null;
}

/** A transmitter as it was found: its class, what lies between but distance and directions, and the level on a flat map. */
export interface Found {
  sender: Sender;
  own: SenderClass;
  fixedDb: number;
  dbm: number;
  isOnMast: boolean;
}

/** Whether a sender and a listener keep one time: access points send together, and listen together to their customers. */
const sendsWhileItSends = ({ link, to: { radio } }: Ear, { end, isNear }: Sender): boolean =>
  keepOneTime(
    { timingGroup: radio.timingGroup, isNear: radio.id === link.aRadioId },
    { timingGroup: end.radio.timingGroup, isNear },
  );

/** Index of the first sender that stands no farther south than a latitude. */
function firstFrom(latDeg: Float64Array, southDeg: number): number {
  let [low, high] = [0, latDeg.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (latDeg[middle]! < southDeg) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The loudest of those who take turns, by the number of their turn: as a power on a chain, and who it is. */
interface Loudest {
  milliwatts: Float64Array;
  found: Map<number, Found>;
}

const nobody = (turns: number): Loudest => ({ milliwatts: new Float64Array(turns), found: new Map() });

/**
 * Who may be heard of one class by its power in the beam and by where it stands; the strongest of those who take turns. Most of
 * a large network are told to be too weak by distance and by the greatest share that the patterns let through.
 */
function gather(ear: Ear, heard: SenderClass, loudest: Loudest): void {
  const { to, listensMHz, leastDbm, mostShareOf } = ear;
  const { frequencyMHz, widthMHz, beamDbm, senders } = heard;
  if (!channelsMeet(heard, { frequencyMHz: listensMHz, widthMHz: to.radio.widthMHz })) return;
  const sample = senders[0]!.end;
  const { sumDb: fixedDb } = receivedShare(sample, to, { frequencyMHz, widthMHz }, listensMHz);
  const strongestDbm = beamDbm + fixedDb + peakGainDbi(to.antenna, frequencyMHz, to.radio.polarization);
  const atKmDbm = strongestDbm - freeSpaceLossDb({ distanceKm: 1, frequencyGHz: frequencyMHz / 1000 });
  const [atKmMilliwatts, leastMilliwatts] = [10 ** (atKmDbm / 10), 10 ** (leastDbm / 10)];
  // Nobody is heard from farther than the beams of both, straight at each other, would reach.
  const reachKm = Math.min(FARTHEST_KM, Math.sqrt(atKmMilliwatts / leastMilliwatts));
  const { latDeg, lonDeg } = to.place;
  const kmPerLonDeg = KM_PER_DEG * Math.cos(latDeg * RADIANS);
  const headingDeg = to.radio.azimuthDeg ?? ear.aim().bearingDeg;
  const toEast = Math.sin(headingDeg * RADIANS);
  const toNorth = Math.cos(headingDeg * RADIANS);
  const northDeg = latDeg + reachKm / KM_PER_DEG;
  const toShare = mostShareOf(to.antenna, to.radio.polarization);
  const fromShare = mostShareOf(sample.antenna, sample.radio.polarization);
  const { milliwatts, found } = loudest;
  const hear = (sender: Sender, dbm: number, isOnMast: boolean) => {
    if (isNotHeard(ear, sender) || dbm < leastDbm) return;
    const known = found.get(sender.turn);
    // Of two who are equally loud the first by id, whoever was looked at first.
    if (known && ranksBefore(known.dbm, known.sender.told.radioId, dbm, sender.told.radioId)) return;
    milliwatts[sender.turn] = 10 ** (dbm / 10);
    found.set(sender.turn, { sender, own: heard, fixedDb, dbm, isOnMast });
  };
  for (let at = firstFrom(heard.latDeg, latDeg - reachKm / KM_PER_DEG); at < senders.length; at++) {
    const fromLatDeg = heard.latDeg[at]!;
    if (fromLatDeg > northDeg) break;
    const northKm = (fromLatDeg - latDeg) * KM_PER_DEG;
    const eastDeg = heard.lonDeg[at]! - lonDeg;
    const eastKm = (eastDeg > 180 ? eastDeg - 360 : eastDeg < -180 ? eastDeg + 360 : eastDeg) * kmPerLonDeg;
    const squareKm = northKm * northKm + eastKm * eastKm;
    if (squareKm < ON_MAST_SQUARE_KM) {
      hear(senders[at]!, onMastDbm(ear, heard, senders[at]!, fixedDb), true);
      continue;
    }
    if (squareKm > reachKm * reachKm) continue;
    const known = milliwatts[heard.turns[at]!]!;
    const mostMilliwatts = atKmMilliwatts / squareKm;
    if (mostMilliwatts * ROUNDING < known) continue;
    const perKm = 1 / Math.sqrt(squareKm);
    const toCosine = (eastKm * toEast + northKm * toNorth) * perKm;
    const fromCosine = -(eastKm * heard.eastward[at]! + northKm * heard.northward[at]!) * perKm;
    const bound = toShare[partOf(toCosine)]! * fromShare[partOf(fromCosine)]! * mostMilliwatts * ROUNDING;
    if (bound < leastMilliwatts || bound < known) continue;
    const sender = senders[at]!;
    const bearingDeg = Math.atan2(eastKm, northKm) / RADIANS;
    const { antenna, radio } = sender.end;
    const offDb =
      patternLossDb(to.antenna, to.radio.polarization, signedAngleDeg(bearingDeg - headingDeg), 0) +
      patternLossDb(antenna, radio.polarization, signedAngleDeg(bearingDeg + 180 - sender.headingDeg), 0);
    hear(sender, atKmDbm - 10 * Math.log10(squareKm) - offDb, false);
  }
}
/** A bound stands a hair above what it bounds, however that was rounded. */
const ROUNDING = 1 + 1e-9;
const ON_MAST_SQUARE_KM = (SHORTEST_PATH_M / 1000) ** 2;

/**
 * Who never sends while a receiver listens: its own far ends and near end, and those who keep its time. What a scan measured there says
 * more of outsiders than what is known of them.
 */
function isNotHeard(ear: Ear, sender: Sender): boolean {
  const { aRadioId, bRadioId } = ear.link;
  const { id } = sender.end.radio;
  if (sender.isOutsider && ear.isScanned) return true;
  return sender.group === aRadioId || id === aRadioId || id === bRadioId || sendsWhileItSends(ear, sender);
}

/** Power on a chain from an antenna on the same mast, dBm. */
function onMastDbm(
  { to, aim: toAim }: Ear,
  { frequencyMHz, beamDbm }: SenderClass,
  { end, aim }: Sender,
  fixedDb: number,
): number {
  const gainDbi = peakGainDbi(end.antenna, frequencyMHz, end.radio.polarization);
  const headingOf = (one: LinkEnd, { bearingDeg }: Aim) => one.radio.azimuthDeg ?? bearingDeg;
  const { isolationDb } = couplingOf(end, headingOf(end, aim), to, headingOf(to, toAim()), frequencyMHz);
  return beamDbm - gainDbi + fixedDb - isolationDb;
}

/** What was ranked as on a flat map, by the geodesic. */
export function exactly(
  { to, aim: aimOfEar }: Ear,
  { sender, own, fixedDb, dbm: flatDbm, isOnMast }: Found,
): Candidate {
  const { end, aim, told, turnName } = sender;
  const { frequencyMHz, beamDbm } = own;
  const toAim = aimOfEar();
  // Candidates are written out, as all is that a large plan keeps by the ten thousand: what is spread has a shape of its own each.
  if (isOnMast) return { told, turnName, flatDbm, dbm: flatDbm, gainsDb: 0, fromAim: aim, toAim, bearingDeg: null };
  const line = inverseGeodesic(end.place, to.place);
  const gainsDb =
    gainTowardDbi(end, aim, frequencyMHz, line.azimuthDeg, null) +
    gainTowardDbi(to, toAim, frequencyMHz, line.backAzimuthDeg, null);
  const beamGainDbi = peakGainDbi(end.antenna, frequencyMHz, end.radio.polarization);
  const freeSpaceDb = freeSpaceLossDb({ distanceKm: line.distanceM / 1000, frequencyGHz: frequencyMHz / 1000 });
  const dbm = beamDbm - beamGainDbi + gainsDb - freeSpaceDb + fixedDb;
  return { told, turnName, flatDbm, dbm, gainsDb, fromAim: aim, toAim, bearingDeg: line.backAzimuthDeg };
}

/** Strongest first; of two that are equally strong the first by id. */
export const byLevel = (x: Candidate, y: Candidate): number =>
  y.dbm - x.dbm || (x.told.radioId < y.told.radioId ? -1 : 1);

/** A class of one as a receiver may hear it; null where it is too weak to be looked at. */
export function levelAt(ear: Ear, alone: SenderClass): Found | null {
  const heard = nobody(1);
  gather(ear, alone, heard);
  return heard.found.get(0) ?? null;
}

/** Whether one transmitter is ranked before another by how it is heard on a flat map. */
export const ranksBefore = (xDbm: number, xId: string, yDbm: number, yId: string): boolean =>
  xDbm > yDbm || (xDbm === yDbm && xId < yId);

/**
 * All of the plan's transmitters that a receiver may hear in its channel, strongest on a flat map first: taken as always
 * sending, at the power they are set to, unless they keep the receiver's own time and send while it sends. Of the customers of one
 * sector, who take turns, only the strongest counts. The ground is not looked at yet. `likely` are tried first:
 * a loud one found early rules most others out.
 */
export function foundBy(ear: Ear, { classes, turns }: Air, likely: readonly SenderClass[] = []): Found[] {
  const loudest = nobody(turns.size);
  // Its own sector's customers are many, and none of them is heard.
  const own = turns.get(ear.link.aRadioId);
  if (own !== undefined) loudest.milliwatts[own] = Infinity;
  for (const heard of likely) gather(ear, heard, loudest);
  for (const heard of classes.values()) gather(ear, heard, loudest);
  return [...loudest.found.values()].sort((x, y) =>
    ranksBefore(x.dbm, x.sender.told.radioId, y.dbm, y.sender.told.radioId) ? -1 : 1,
  );
}

/** The same by the geodesic. */
export function candidatesFor(listening: Listening, link: Talk, to: LinkEnd): Candidate[] {
  const ear = earOf(listening, link, to);
  return foundBy(ear, listening.air()).map((found) => exactly(ear, found));
}
