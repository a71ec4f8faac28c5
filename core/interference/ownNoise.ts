import { tiltDownDeg } from "../aiming";
import type { Place } from "../geodesy";
import { linearOf, obstructionHeightsM, type HeardRadio, type OwnNoise } from "../link";
import { endOf, type Link, type LinkEnd, type World } from "../plan";
import { deltaBullingtonLossDb } from "../propagation";
import type { Profile } from "../terrain";
import { gainTowardDbi } from "./aims";
import { candidatesFor, thermalDbmAt, type Candidate } from "./candidates";

/** The ground between two places; undefined while it is not known, and the two are then taken to be in free sight. */
export type KnownProfile = (from: Place, to: Place) => Profile | undefined;

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
 * mast. Who has no timing in common with a receiver is taken to send whenever it listens.
 */
export function ownNoiseAt(world: World, link: Link, radioId: string, profileBetween: KnownProfile): OwnNoise {
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
