import { tiltDownDeg } from "../aiming";
import type { Place } from "../geodesy";
import { linearOf, obstructionHeightsM, receiveBeamOf, type HeardRadio, type OwnNoise } from "../link";
import { endOf, type Link, type LinkEnd, type World } from "../plan";
import { deltaBullingtonLossDb } from "../propagation";
import type { Profile } from "../terrain";
import { gainTowardDbi } from "./aims";
import type { AirChange } from "./airChange";
import {
  byLevel,
  candidatesFor,
  exactly,
  foundBy,
  levelAt,
  ranksBefore,
  type Candidate,
  type Found,
} from "./candidates";
import { earOf, thermalDbmAt, type Listening, type Talk } from "./listening";
import { transmitterAt } from "./outsiders";
import { classOf, isAlone, type Sender, type SenderClass } from "./senders";

/** The ground between two places; undefined while it is not known, and the two are then taken to be in free sight. */
export type KnownProfile = (from: Place, to: Place) => Profile | undefined;

/** A transmitter that a receiver may hear. */
interface Looked {
  candidate: Candidate;
  /** Power that arrives over the ground, dBm; null where it counts in free sight, together with the other faint ones. */
  heardDbm: number | null;
}

/** What a receiver hears, with what it was made from: after a change only the transmitters that changed are looked at again. */
export interface Hearing {
  noise: OwnNoise;
  /** All who may be heard, strongest on a flat map first. */
  looked: readonly Looked[];
}

/**
 * What a receiver hears of the plan's other transmitters on its own or overlapping channels, on one chain: both patterns, both
 * polarizations, how far the channels overlap, free space and the ground's diffraction between, or the coupling on a shared
 * mast. Who has no timing in common with a receiver is taken to send whenever it listens. With `each` "alone" a loud one hides no fainter
 * one: all are looked at that make a difference by themselves.
 */
export function hearingAt(
  listening: Listening,
  link: Link,
  radioId: string,
  profileBetween: KnownProfile,
  each: "together" | "alone" = "together",
): Hearing {
  const { world } = listening;
  const to = endOf(world, radioId);
  return listened(world, to, candidatesFor(listening, link, to).map(notYetOverGround), profileBetween, each);
}
const notYetOverGround = (candidate: Candidate): Looked => ({ candidate, heardDbm: null });

/**
 * What one end that looks at an access point hears at one place after another, as `hearingAt` tells it of an end of the plan: `to` stands
 * for it, wherever it stands. Quick where places lie close together, for then mostly the same transmitters are heard.
 */
export function hearingOver(
  listening: Listening,
  link: Talk,
  to: LinkEnd,
  profileBetween: KnownProfile,
): (place: Place) => OwnNoise {
  const alone = new Map<Sender, SenderClass>();
  const aloneOf = ({ sender, own }: Found) => {
    const known = alone.get(sender) ?? classOf(own, [sender]);
    alone.set(sender, known);
    return known;
  };
  let likely: SenderClass[] = [];
  return (place) => {
    const here = { ...to, place };
    const ear = earOf(listening, link, here);
    const found = foundBy(ear, listening.air(), likely);
    likely = found.map(aloneOf);
    const looked = found.map((one) => notYetOverGround(exactly(ear, one)));
    return listened(listening.world, here, looked, profileBetween).noise;
  };
}

/**
 * The sum over all transmitters, of which some are known over the ground already: the strongest each over its ground, until all that are
 * left, added up in free sight, come to under a fiftieth of what is heard; those count together.
 */
function listened(
  world: World,
  to: LinkEnd,
  looked: readonly Looked[],
  profileBetween: KnownProfile,
  each: "together" | "alone" = "together",
): Hearing {
  let milliwatts = 10 ** (thermalDbmAt(to) / 10);
  const hasBeam = receiveBeamOf(to) !== null;
  const radios: HeardRadio[] = [];
  const heard = new Map<Looked, Looked>();
  const strongestFirst = [...looked].sort((x, y) => byLevel(x.candidate, y.candidate));
  // From the faintest up, so that each is the sum of itself and all behind it.
  const leftMilliwatts = new Float64Array(strongestFirst.length + 1);
  for (let i = strongestFirst.length - 1; i >= 0; i--)
    leftMilliwatts[i] = leftMilliwatts[i + 1]! + 10 ** (strongestFirst[i]!.candidate.dbm / 10);
  let rest = { count: 0, milliwatts: 0 };
  for (const [i, one] of strongestFirst.entries()) {
    const { candidate } = one;
    // A receive beam may turn away from all that is loud, so there everybody is looked at.
    if (!hasBeam && leftMilliwatts[i]! < milliwatts * UNNOTICED_SHARE) {
      rest = { count: strongestFirst.length - i, milliwatts: leftMilliwatts[i]! };
      break;
    }
    const dbm = one.heardDbm ?? arrivingDbm(world, candidate, to, profileBetween);
    if (one.heardDbm === null) heard.set(one, { candidate, heardDbm: dbm });
    if (each === "together") milliwatts += 10 ** (dbm / 10);
    const { radioId, name, placeName, group, frequencyMHz, widthMHz } = candidate.told;
    const { bearingDeg } = candidate;
    radios.push({ radioId, name, placeName, group, frequencyMHz, widthMHz, bearingDeg, dbm });
  }
  radios.sort((x, y) => y.dbm - x.dbm || (x.radioId < y.radioId ? -1 : 1));
  const sum = radios.reduce((all, { dbm }) => all + 10 ** (dbm / 10), rest.milliwatts);
  return {
    noise: { dbm: sum > 0 ? 10 * Math.log10(sum) : null, radios, faintCount: rest.count },
    looked: heard.size > 0 ? looked.map((one) => heard.get(one) ?? one) : looked,
  };
}
/** Share of what is heard already, thermal noise included, under which all that are left count together: at most 0.09 dB. */
const UNNOTICED_SHARE = 0.02;

function arrivingDbm(world: World, candidate: Candidate, to: LinkEnd, profileBetween: KnownProfile): number {
  return candidate.bearingDeg === null
    ? candidate.dbm
    : candidate.dbm - overGroundDb(world, candidate, to, profileBetween);
}

/** What the ground takes between two ends of the plan that do not talk to each other, dB. */
export function groundLossDb(world: World, from: LinkEnd, to: LinkEnd, frequencyMHz: number, profile: Profile): number {
  const { groundAmslM, distancesKm } = profile;
  return deltaBullingtonLossDb({
    distancesKm,
    heightsM: obstructionHeightsM(profile, false),
    txAmslM: groundAmslM[0]! + from.radio.heightM,
    rxAmslM: groundAmslM[groundAmslM.length - 1]! + to.radio.heightM,
    frequencyGHz: frequencyMHz / 1000,
    kFactor: world.plan.kFactor,
    polarization: linearOf(from.radio.polarization),
  });
}

/** What the ground takes, and what both antennas lose by looking above or below each other, dB. */
function overGroundDb(world: World, candidate: Candidate, to: LinkEnd, profileBetween: KnownProfile): number {
  const { told, gainsDb, fromAim, toAim } = candidate;
  const { frequencyMHz } = told;
  const from = transmitterAt(world, told.radioId);
  const profile = profileBetween(from.place, to.place);
  // Over unknown ground nothing is promised to stand between.
  if (!profile || profile.holes) return 0;
  const { groundAmslM, distanceM, azimuthDeg, backAzimuthDeg } = profile;
  const { kFactor } = world.plan;
  const txAmslM = groundAmslM[0]! + from.radio.heightM;
  const rxAmslM = groundAmslM[groundAmslM.length - 1]! + to.radio.heightM;
  const trueGainsDb =
    gainTowardDbi(from, fromAim, frequencyMHz, azimuthDeg, tiltDownDeg(txAmslM, rxAmslM, distanceM, kFactor)) +
    gainTowardDbi(to, toAim, frequencyMHz, backAzimuthDeg, tiltDownDeg(rxAmslM, txAmslM, distanceM, kFactor));
  return groundLossDb(world, from, to, frequencyMHz, profile) + gainsDb - trueGainsDb;
}

/**
 * What a receiver that stayed as it was hears after a change on the air; `before` itself where nothing that it looks at changed.
 * Exact: wherever the transmitters that changed do not tell alone who is looked at now, all are asked again.
 */
export function hearingAfter(
  listening: Listening,
  change: AirChange,
  before: Hearing,
  link: Link,
  radioId: string,
  profileBetween: KnownProfile,
): Hearing {
  const { world } = listening;
  const radio = world.radios.get(radioId)!;
  if (!change.mayReach(radio, link)) return before;
  const to = endOf(world, radioId);
  const ear = earOf(listening, link, to);
  const anew = () => hearingAt(listening, link, radioId, profileBetween);
  const looked = [...before.looked];
  let isOther = false;
  for (const { id, was, is, alone } of change.changed) {
    const found = alone && levelAt(ear, alone);
    const own = looked.findIndex(({ candidate }) => candidate.told.radioId === id);
    if (own < 0 && !found) continue;
    if (own >= 0) {
      // Who waited for this one's turn may be the strongest of it now.
      const isWeaker = !found || found.dbm < looked[own]!.candidate.flatDbm;
      if (isWeaker && !isAlone(was!.sender)) return anew();
      if (is && was!.sender.turnName !== is.sender.turnName) return anew();
      looked.splice(own, 1);
      isOther = true;
    }
    if (!found) continue;
    const isBehind = ({ candidate: { flatDbm, told } }: Looked) => ranksBefore(found.dbm, id, flatDbm, told.radioId);
    const mate = looked.findIndex(({ candidate }) => candidate.turnName === found.sender.turnName);
    if (mate >= 0) {
      if (!isBehind(looked[mate]!)) continue;
      looked.splice(mate, 1);
    }
    const place = looked.findIndex(isBehind);
    looked.splice(place < 0 ? looked.length : place, 0, { candidate: exactly(ear, found), heardDbm: null });
    isOther = true;
  }
  if (!isOther) return before;
  const now = listened(world, to, looked, profileBetween);
  return isSameNoise(before.noise, now.noise) ? { ...now, noise: before.noise } : now;
}

function isSameNoise(x: OwnNoise, y: OwnNoise): boolean {
  return (
    x.dbm === y.dbm &&
    x.faintCount === y.faintCount &&
    x.radios.length === y.radios.length &&
    x.radios.every((one, i) => {
      const other = y.radios[i]!;
      return (
        one.radioId === other.radioId &&
        one.dbm === other.dbm &&
        one.bearingDeg === other.bearingDeg &&
        one.name === other.name &&
        one.placeName === other.placeName &&
        one.group === other.group &&
        one.frequencyMHz === other.frequencyMHz &&
        one.widthMHz === other.widthMHz
      );
    })
  );
}

/** What both ends of links of one world hear over one ground; links that share an access point ask for its ears once. `each` as for `hearingAt`. */
export function earsOf(
  listening: Listening,
  profileBetween: KnownProfile,
  each: "together" | "alone" = "together",
): (link: Link) => { a: OwnNoise; b: OwnNoise } {
  const near = new Map<string, OwnNoise>();
  return (link) => {
    const a = near.get(link.aRadioId) ?? hearingAt(listening, link, link.aRadioId, profileBetween, each).noise;
    // A link that is not in the plan yet hears its own far end too, where that is in use elsewhere.
    if (listening.world.links.has(link.id)) near.set(link.aRadioId, a);
    return { a, b: hearingAt(listening, link, link.bRadioId, profileBetween, each).noise };
  };
}
