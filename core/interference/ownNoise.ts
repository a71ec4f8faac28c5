import { pointingOf, tiltDownDeg } from "../aiming";
import { patternLossDb, peakGainDbi } from "../antenna";
import { inverseGeodesic, signedAngleDeg, type Place } from "../geodesy";
import {
  chainSplitDb,
  linearOf,
  obstructionHeightsM,
  polarizationLossDb,
  wallDb,
  type HeardRadio,
  type OwnNoise,
} from "../link";
import { mastIsolationDb } from "../mast";
import { endOf, type Link, type LinkEnd, type World } from "../plan";
import { deltaBullingtonLossDb, freeSpaceLossDb, thermalNoiseDbm } from "../propagation";
import { returnFrequencyMHz } from "../radio";
import { channelCouplingDb } from "../spectrum";
import { SHORTEST_PATH_M, type Profile } from "../terrain";

/** The ground between two places; undefined while it is not known, and the two are then taken to be in free sight. */
export type KnownProfile = (from: Place, to: Place) => Profile | undefined;

/** Transmitters farther away than this are not looked for. */
const FARTHEST_KM = 40;
/** In free space weaker than a chain's thermal noise by this, a transmitter makes no difference, dB. */
const UNHEARD_DB = 10;
/** Strongest ones whose ground is looked at; those behind them would change the sum by little. */
const MOST_HEARD = 12;
/** Two antennas on one mast are taken to stand at least so far apart sideways, m. */
const MAST_SIDEWAYS_M = 0.5;

/** Who talks with whom: radios under one number never send into each other's ears. */
function talksWith(world: World): Map<string, string> {
  let groups = groupsOf.get(world.links);
  if (!groups) {
    groups = new Map();
    for (const { aRadioId, bRadioId } of world.links.values()) {
      groups.set(aRadioId, aRadioId);
      groups.set(bRadioId, aRadioId);
    }
    groupsOf.set(world.links, groups);
  }
  return groups;
}
/** Groups by the plan's links, for as long as these stay what they are. */
const groupsOf = new WeakMap<World["links"], Map<string, string>>();

/** The access point or near bridge end under which a radio talks; the radio itself while it has no link. */
export function talksUnder(world: World, radioId: string): string {
  return talksWith(world).get(radioId) ?? radioId;
}

/** A transmitter that may be heard, in free sight. */
interface Candidate {
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

/** The frequency on which a radio sends, MHz: in FDD the far end of a bridge answers on the other one. */
function sendsOnMHz(world: World, end: LinkEnd): number {
  const { radio, model } = end;
  const isFarEnd = model.duplex === "FDD" && talksWith(world).get(radio.id) !== radio.id;
  return isFarEnd ? returnFrequencyMHz(model, radio.frequencyMHz) : radio.frequencyMHz;
}

function listensOnMHz(end: LinkEnd, link: Link): number {
  const { radio, model } = end;
  const isNearEnd = model.duplex === "FDD" && link.aRadioId === radio.id;
  return isNearEnd ? returnFrequencyMHz(model, radio.frequencyMHz) : radio.frequencyMHz;
}

/** Gain toward a bearing, pattern and peak together, dBi; without a tilt as if the elevation cut stood at its peak. */
function gainTowardDbi(
  end: LinkEnd,
  aim: Aim,
  frequencyMHz: number,
  bearingDeg: number,
  tiltDownDeg: number | null,
): number {
  const { radio, antenna } = end;
  const aimed: LinkEnd = {
    ...end,
    radio: {
      ...radio,
      azimuthDeg: radio.azimuthDeg ?? aim.bearingDeg,
      tiltDownDeg: radio.tiltDownDeg ?? aim.tiltDownDeg,
    },
  };
  const { azimuthOffDeg, elevationOffDeg } = pointingOf(aimed, bearingDeg, tiltDownDeg ?? 0);
  return (
    peakGainDbi(antenna, frequencyMHz, radio.polarization) -
    patternLossDb(antenna, radio.polarization, azimuthOffDeg, tiltDownDeg === null ? 0 : elevationOffDeg)
  );
}

/** Where an end that aims at its far end looks. */
interface Aim {
  bearingDeg: number;
  tiltDownDeg: number;
}

/** The far end of each radio's first link. */
const matesOf = new WeakMap<World["links"], Map<string, string>>();
function mateOf(world: World, radioId: string): string | undefined {
  let mates = matesOf.get(world.links);
  if (!mates) {
    mates = new Map();
    for (const { aRadioId, bRadioId } of world.links.values()) {
      if (!mates.has(aRadioId)) mates.set(aRadioId, bRadioId);
      if (!mates.has(bRadioId)) mates.set(bRadioId, aRadioId);
    }
    matesOf.set(world.links, mates);
  }
  return mates.get(radioId);
}

function aimOf(world: World, end: LinkEnd, mate = mateOf(world, end.radio.id)): Aim {
  const electrical = end.antenna.electricalTiltDownDeg;
  if (mate === undefined || !world.radios.has(mate)) return { bearingDeg: 0, tiltDownDeg: -electrical };
  return { bearingDeg: inverseGeodesic(end.place, endOf(world, mate).place).azimuthDeg, tiltDownDeg: -electrical };
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

/**
 * The plan's transmitters that a receiver may hear in its channel, strongest first: taken as always sending, at the power they
 * are set to. Of the customers of one sector, who take turns, only the strongest counts. The ground is not looked at yet.
 */
function candidatesFor(world: World, link: Link, to: LinkEnd): Candidate[] {
  const groups = talksWith(world);
  const listensMHz = listensOnMHz(to, link);
  const thermalDbm = thermalDbmAt(to);
  const reachLatDeg = FARTHEST_KM / 111;
  const toAim = aimOf(world, to, to.radio.id === link.aRadioId ? link.bRadioId : link.aRadioId);
  const byTurn = new Map<string, Candidate>();
  for (const radio of world.radios.values()) {
    if (radio.id === link.aRadioId || radio.id === link.bRadioId) continue;
    const group = groups.get(radio.id);
    // A radio without a link is on nobody's air yet; those that talk with the same access point take turns with this one.
    if (group === undefined || group === link.aRadioId) continue;
    const nearMHz = (radio.widthMHz + to.radio.widthMHz) * 2.5;
    const model = world.radioModels.get(radio.radioModelId);
    if (!model || (model.duplex === "TDD" && Math.abs(radio.frequencyMHz - listensMHz) > nearMHz)) continue;
    const from = endOf(world, radio.id);
    if (Math.abs(from.place.latDeg - to.place.latDeg) > reachLatDeg) continue;
    const frequencyMHz = sendsOnMHz(world, from);
    if (Math.abs(frequencyMHz - listensMHz) > nearMHz) continue;
    const line = inverseGeodesic(from.place, to.place);
    if (line.distanceM > FARTHEST_KM * 1000) continue;
    const couplingDb = channelCouplingDb({
      offsetMHz: frequencyMHz - listensMHz,
      txWidthMHz: radio.widthMHz,
      rxWidthMHz: to.radio.widthMHz,
      rejectionDb: to.model.adjacentRejectionDb,
    });
    const isOnMast = line.distanceM < SHORTEST_PATH_M;
    const fromAim = aimOf(world, from);
    const gainsDb = isOnMast
      ? 0
      : gainTowardDbi(from, fromAim, frequencyMHz, line.azimuthDeg, null) +
        gainTowardDbi(to, toAim, frequencyMHz, line.backAzimuthDeg, null);
    const pathDb = isOnMast
      ? isolationDb(from, fromAim, to, toAim, frequencyMHz)
      : freeSpaceLossDb({ distanceKm: line.distanceM / 1000, frequencyGHz: frequencyMHz / 1000 }) - gainsDb;
    const dbm =
      radio.txPowerDbm -
      radio.cableLossDb -
      pathDb -
      to.radio.cableLossDb -
      wallDb(from, frequencyMHz / 1000) -
      wallDb(to, frequencyMHz / 1000) -
      polarizationLossDb(from, to) -
      chainSplitDb(from, to) +
      couplingDb;
    if (dbm < thermalDbm - UNHEARD_DB) continue;
    const turn = radio.role === "subscriber" ? group : radio.id + " alone";
    const known = byTurn.get(turn);
    if (!known || known.dbm < dbm) byTurn.set(turn, { from, frequencyMHz, dbm, gainsDb, fromAim, toAim, isOnMast });
  }
  return [...byTurn.values()].sort((x, y) => y.dbm - x.dbm).slice(0, MOST_HEARD);
}

/** Pairs of places whose ground decides what the two ends of a link hear, to be fetched before asking. */
export function pairsHeard(world: World, link: Link): [from: Place, to: Place][] {
  return [link.aRadioId, link.bRadioId].flatMap((id) => {
    const to = endOf(world, id);
    return candidatesFor(world, link, to)
      .filter(({ isOnMast }) => !isOnMast)
      .map(({ from }): [Place, Place] => [from.place, to.place]);
  });
}

/**
 * What a receiver hears of the plan's other transmitters on its own or overlapping channels, on one chain: both patterns, both
 * polarizations, how far the channels overlap, free space and the ground's diffraction between, or the coupling on a shared
 * mast. Without timing in common everybody is taken to send while others listen.
 */
function ownNoiseAt(world: World, link: Link, radioId: string, profileBetween: KnownProfile): OwnNoise {
  const to = endOf(world, radioId);
  let milliwatts = 10 ** (thermalDbmAt(to) / 10);
  const radios: HeardRadio[] = [];
  for (const candidate of candidatesFor(world, link, to)) {
    const { from, frequencyMHz, isOnMast } = candidate;
    // Candidates come by what they could be at most: from here on none adds what anybody would notice.
    if (10 ** (candidate.dbm / 10) < milliwatts * UNNOTICED_SHARE) break;
    const dbm = isOnMast ? candidate.dbm : candidate.dbm - overGroundDb(world, candidate, to, profileBetween);
    milliwatts += 10 ** (dbm / 10);
    radios.push({
      radioId: from.radio.id,
      name: from.radio.name,
      placeName: from.placeName,
      frequencyMHz,
      widthMHz: from.radio.widthMHz,
      dbm,
    });
  }
  radios.sort((x, y) => y.dbm - x.dbm);
  const heard = radios.reduce((sum, { dbm }) => sum + 10 ** (dbm / 10), 0);
  return { dbm: heard > 0 ? 10 * Math.log10(heard) : null, radios };
}
/** Share of what is heard already, thermal noise included, under which one more makes no difference. */
const UNNOTICED_SHARE = 0.02;

const thermalDbmAt = ({ radio, model }: LinkEnd) =>
  thermalNoiseDbm({ bandwidthMHz: radio.widthMHz, noiseFigureDb: model.noiseFigureDb });

/** What receivers of a world hear over one ground: many links share an access point, and each asks for its ears. */
const heardBefore = new WeakMap<KnownProfile, WeakMap<World, Map<string, OwnNoise>>>();

function rememberedNoiseAt(world: World, link: Link, radioId: string, profileBetween: KnownProfile): OwnNoise {
  let worlds = heardBefore.get(profileBetween);
  if (!worlds) heardBefore.set(profileBetween, (worlds = new WeakMap()));
  let known = worlds.get(world);
  if (!known) worlds.set(world, (known = new Map()));
  const key = `${radioId} ${link.aRadioId}`;
  const noise = known.get(key) ?? ownNoiseAt(world, link, radioId, profileBetween);
  known.set(key, noise);
  return noise;
}

/** What the ground takes, and what both antennas lose by looking above or below each other, dB. */
function overGroundDb(world: World, candidate: Candidate, to: LinkEnd, profileBetween: KnownProfile): number {
  const { from, frequencyMHz, gainsDb, fromAim, toAim } = candidate;
  const profile = profileBetween(from.place, to.place);
  // Over unknown ground nothing is promised to stand between.
  if (!profile || profile.holes) return 0;
  const { groundAmslM, distancesKm, distanceM, azimuthDeg, backAzimuthDeg } = profile;
  const { kFactor } = world.plan;
  const txAmslM = groundAmslM[0]! + from.radio.heightM;
  const rxAmslM = groundAmslM[groundAmslM.length - 1]! + to.radio.heightM;
  const trueGainsDb =
    gainTowardDbi(from, fromAim, frequencyMHz, azimuthDeg, tiltDownDeg(txAmslM, rxAmslM, distanceM, kFactor)) +
    gainTowardDbi(to, toAim, frequencyMHz, backAzimuthDeg, tiltDownDeg(rxAmslM, txAmslM, distanceM, kFactor));
  const diffractionDb = deltaBullingtonLossDb({
    distancesKm,
    heightsM: obstructionHeightsM(profile, false),
    txAmslM,
    rxAmslM,
    frequencyGHz: frequencyMHz / 1000,
    kFactor,
    polarization: linearOf(from.radio.polarization),
  });
  return diffractionDb + gainsDb - trueGainsDb;
}

/** What both ends of a link hear; the link itself need not be in the plan yet. */
export function ownNoiseOf(world: World, link: Link, profileBetween: KnownProfile): { a: OwnNoise; b: OwnNoise } {
  return {
    a: rememberedNoiseAt(world, link, link.aRadioId, profileBetween),
    b: ownNoiseAt(world, link, link.bRadioId, profileBetween),
  };
}
