import { patternLossDb, peakGainDbi } from "../antenna";
import { inverseGeodesic, signedAngleDeg } from "../geodesy";
import { chainSplitDb, polarizationLossDb, wallDb } from "../link";
import { mastIsolationDb } from "../mast";
import type { Link, LinkEnd, World } from "../plan";
import { freeSpaceLossDb, thermalNoiseDbm } from "../propagation";
import { returnFrequencyMHz } from "../radio";
import { channelCouplingDb } from "../spectrum";
import { SHORTEST_PATH_M } from "../terrain";
import { aimOf, gainTowardDbi, type Aim } from "./aims";
import { senderClasses, type Sender, type SenderClass } from "./senders";

/** Transmitters farther away than this are not looked for. */
const FARTHEST_KM = 40;
/** In free space weaker than a chain's thermal noise by this, a transmitter makes no difference, dB. */
const UNHEARD_DB = 10;
/** Strongest ones whose ground is looked at; those behind them would change the sum by little. */
const MOST_HEARD = 12;
/** Two antennas on one mast are taken to stand at least so far apart sideways, m. */
const MAST_SIDEWAYS_M = 0.5;
const KM_PER_DEG = 111.195;
const RADIANS = Math.PI / 180;

/** A transmitter that may be heard, in free sight. */
export interface Candidate {
  from: LinkEnd;
  frequencyMHz: number;
  /** Power on one of the receiver's chains with both antennas' elevation at its peak and no ground between, dBm. */
  dbm: number;
  /** Both gains counted in it, dB. */
  gainsDb: number;
  fromAim: Aim;
  toAim: Aim;
  isOnMast: boolean;
}

/** A receiver with what all that it may hear is held against. */
export interface Ear {
  link: Link;
  to: LinkEnd;
  toAim: Aim;
  listensMHz: number;
  /** Cable and wall of its own, dB. */
  ownLossDb: number;
  /** Weaker than this nobody is looked at, dBm. */
  leastDbm: number;
}

export const thermalDbmAt = ({ radio, model }: LinkEnd): number =>
  thermalNoiseDbm({ bandwidthMHz: radio.widthMHz, noiseFigureDb: model.noiseFigureDb });

function listensOnMHz({ radio, model }: LinkEnd, link: Link): number {
  const isNearEnd = model.duplex === "FDD" && link.aRadioId === radio.id;
  return isNearEnd ? returnFrequencyMHz(model, radio.frequencyMHz) : radio.frequencyMHz;
}

/** Loss between two antennas of one mast, dB, from what is known of them: heights, headings and patterns. */
function isolationDb(from: LinkEnd, fromAim: Aim, to: LinkEnd, toAim: Aim, frequencyMHz: number): number {
  const headingOf = (end: LinkEnd, aim: Aim) => end.radio.azimuthDeg ?? aim.bearingDeg;
  const apartDeg = Math.abs(signedAngleDeg(headingOf(from, fromAim) - headingOf(to, toAim)));
  // Antennas that look the same way stand side by side, those that look apart have each other behind them.
  const offDeg = 90 + apartDeg / 2;
  const gain = (end: LinkEnd) =>
    peakGainDbi(end.antenna, frequencyMHz, end.radio.polarization) -
    patternLossDb(end.antenna, end.radio.polarization, offDeg, 0);
  return mastIsolationDb({
    verticalM: Math.abs(from.radio.heightM - to.radio.heightM),
    horizontalM: MAST_SIDEWAYS_M,
    frequencyGHz: frequencyMHz / 1000,
    aGainDbi: gain(from),
    bGainDbi: gain(to),
  });
}

/** A transmitter as it was found: its class, what lies between but distance and directions, and the level on a flat map. */
interface Found {
  sender: Sender;
  own: SenderClass;
  fixedDb: number;
  dbm: number;
  isOnMast: boolean;
}

/** Whether a sender and a listener keep one time: access points send together, and listen together to their customers. */
function sendsWhileItSends({ link, to }: Ear, { end, isNear }: Sender): boolean {
  const { timingGroup = "" } = to.radio;
  return timingGroup !== "" && end.radio.timingGroup === timingGroup && isNear === (to.radio.id === link.aRadioId);
}

/** Who may be heard of one class by its power in the beam and by where it stands; the strongest of those who take turns. */
export function gather(ear: Ear, heard: SenderClass, byTurn: Map<string, Found>): void {
  const { link, to, toAim, listensMHz, ownLossDb, leastDbm } = ear;
  const { frequencyMHz, widthMHz, beamDbm, senders } = heard;
  if (Math.abs(frequencyMHz - listensMHz) > (widthMHz + to.radio.widthMHz) * 2.5) return;
  const sample = senders[0]!.end;
  const couplingDb = channelCouplingDb({
    offsetMHz: frequencyMHz - listensMHz,
    txWidthMHz: widthMHz,
    rxWidthMHz: to.radio.widthMHz,
    rejectionDb: to.model.adjacentRejectionDb,
  });
  const fixedDb = couplingDb - polarizationLossDb(sample, to) - chainSplitDb(sample, to) - ownLossDb;
  const strongestDbm = beamDbm + fixedDb + peakGainDbi(to.antenna, frequencyMHz, to.radio.polarization);
  const freeSpaceAtKmDb = freeSpaceLossDb({ distanceKm: 1, frequencyGHz: frequencyMHz / 1000 });
  // Nobody is heard from farther than the beams of both, straight at each other, would reach.
  const reachKm = Math.min(FARTHEST_KM, 10 ** ((strongestDbm - leastDbm - freeSpaceAtKmDb) / 20));
  const kmPerLonDeg = KM_PER_DEG * Math.cos(to.place.latDeg * RADIANS);
  const headingDeg = to.radio.azimuthDeg ?? toAim.bearingDeg;
  for (const sender of senders) {
    const { end, group, turn } = sender;
    if (sendsWhileItSends(ear, sender)) continue;
    if (group === link.aRadioId || end.radio.id === link.aRadioId || end.radio.id === link.bRadioId) continue;
    const northKm = (sender.latDeg - to.place.latDeg) * KM_PER_DEG;
    const eastKm = signedAngleDeg(sender.lonDeg - to.place.lonDeg) * kmPerLonDeg;
    const distanceKm = Math.sqrt(northKm * northKm + eastKm * eastKm);
    const isOnMast = distanceKm * 1000 < SHORTEST_PATH_M;
    if (!isOnMast && distanceKm > reachKm) continue;
    const known = byTurn.get(turn);
    let dbm = isOnMast
      ? onMastDbm(ear, heard, sender, fixedDb)
      : strongestDbm - freeSpaceAtKmDb - 20 * Math.log10(distanceKm);
    // Most that take turns are told by their distance alone: patterns only take from it.
    if (known && known.dbm >= dbm) continue;
    if (!isOnMast) {
      const bearingDeg = Math.atan2(eastKm, northKm) / RADIANS;
      dbm -= patternLossDb(to.antenna, to.radio.polarization, signedAngleDeg(bearingDeg - headingDeg), 0);
      if (dbm < leastDbm || (known && known.dbm >= dbm)) continue;
      const fromOffDeg = signedAngleDeg(bearingDeg + 180 - sender.headingDeg);
      dbm -= patternLossDb(end.antenna, end.radio.polarization, fromOffDeg, 0);
    }
    if (dbm < leastDbm || (known && known.dbm >= dbm)) continue;
    byTurn.set(turn, { sender, own: heard, fixedDb, dbm, isOnMast });
  }
}

/** Power on a chain from an antenna on the same mast, dBm. */
function onMastDbm(
  { to, toAim }: Ear,
  { frequencyMHz, beamDbm }: SenderClass,
  { end, aim }: Sender,
  fixedDb: number,
): number {
  const gainDbi = peakGainDbi(end.antenna, frequencyMHz, end.radio.polarization);
  return beamDbm - gainDbi + fixedDb - isolationDb(end, aim, to, toAim, frequencyMHz);
}

/** What was ranked as on a flat map, by the geodesic. */
function exactly({ to, toAim }: Ear, { sender: { end, aim }, own, fixedDb, dbm: flatDbm, isOnMast }: Found): Candidate {
  const { frequencyMHz, beamDbm } = own;
  const shared = { from: end, frequencyMHz, fromAim: aim, toAim };
  if (isOnMast) return { ...shared, dbm: flatDbm, gainsDb: 0, isOnMast };
  const line = inverseGeodesic(end.place, to.place);
  const gainsDb =
    gainTowardDbi(end, aim, frequencyMHz, line.azimuthDeg, null) +
    gainTowardDbi(to, toAim, frequencyMHz, line.backAzimuthDeg, null);
  const beamGainDbi = peakGainDbi(end.antenna, frequencyMHz, end.radio.polarization);
  const freeSpaceDb = freeSpaceLossDb({ distanceKm: line.distanceM / 1000, frequencyGHz: frequencyMHz / 1000 });
  return { ...shared, dbm: beamDbm - beamGainDbi + gainsDb - freeSpaceDb + fixedDb, gainsDb, isOnMast: false };
}

/** An end of a link as it listens. */
export function earOf(world: World, link: Link, to: LinkEnd): Ear {
  return {
    link,
    to,
    toAim: aimOf(world, to, to.radio.id === link.aRadioId ? link.bRadioId : link.aRadioId),
    listensMHz: listensOnMHz(to, link),
    ownLossDb: to.radio.cableLossDb + wallDb(to, to.radio.frequencyMHz / 1000),
    leastDbm: thermalDbmAt(to) - UNHEARD_DB,
  };
}

/**
 * The plan's transmitters that a receiver may hear in its channel, strongest first: taken as always sending, at the power they
 * are set to, unless they keep the receiver's own time and send while it sends. Of the customers of one sector, who take turns, only the strongest counts. The ground is not looked at yet.
 */
export function candidatesFor(world: World, link: Link, to: LinkEnd): Candidate[] {
  const ear = earOf(world, link, to);
  const byTurn = new Map<string, Found>();
  for (const heard of senderClasses(world)) gather(ear, heard, byTurn);
  return [...byTurn.values()]
    .sort((x, y) => y.dbm - x.dbm)
    .slice(0, MOST_HEARD)
    .map((found) => exactly(ear, found))
    .sort((x, y) => y.dbm - x.dbm);
}
