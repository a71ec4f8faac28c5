import { DEFAULT_BRIDGE_MHZ, proposeAccess, proposeBridge } from "../propose";
import { fedSites, type ProfileSource } from "../outcome";
import { inverseGeodesic, type Place } from "../geodesy";
import { checkClearance, holds, obstructionHeightsM, pathProblem } from "../link";
import {
  linkEnds,
  mountsLeft,
  newMast,
  putPatch,
  removalOf,
  withPatches,
  type Patch,
  type Link,
  type Site,
  type World,
} from "../plan";
import { boundsOf, highPoints, type HeightAt, type HighPoint } from "../terrain";
import { trialOf } from "../trial";
import { effectText, tryPatches, type WayOut } from "./try";

/** A relay nearer to an end than this is no relay. */
const LEAST_LEG_M = 150;
/** Blocks along the longer side of the searched ground; in each the highest cell is looked at. */
const BLOCKS = 48;
/** Peaks whose legs are answered in full, the clearest first. */
const MOST_TRIED = 24;
const MOST_PEAKS = 3;

/**
 * The patches that carry a link over `relay` instead: a bridge from its first end unless the relay is fed already, and the
 * last leg; the old link goes. Null where the library has no kit. `world` holds the relay.
 */
function overRelay(
  world: World,
  link: Link,
  relay: Site,
  isFed: boolean,
  makeId: () => string,
): { patches: Patch[]; linkIds: string[] } | null {
  const { a, b } = linkEnds(world, link);
  const first = world.sites.get(a.radio.siteId ?? "");
  if (!first) return null;
  const removal = removalOf(world, [{ kind: "links", id: link.id }]).patches;
  const bare = withPatches(world, removal);
  const lead = isFed ? [] : proposeBridge(bare, first, relay, makeId);
  const subscriber = world.subscribers.get(b.radio.subscriberId ?? "");
  const lastSite = world.sites.get(b.radio.siteId ?? "");
  // The second leg looks for a channel with the first one on the air.
  const led = withPatches(bare, lead ?? []);
  const tail = subscriber
    ? proposeAccess(led, relay, subscriber, makeId)
    : lastSite
      ? proposeBridge(led, relay, lastSite, makeId)
      : null;
  if (!lead || !tail) return null;
  const legs = [...lead, ...tail];
  return { patches: [...removal, ...legs], linkIds: legs.filter(({ kind }) => kind === "links").map(({ id }) => id) };
}

/** The ways that a search for relays found, and how many places it looked at for them. */
interface FoundRelays {
  ways: WayOut[];
  triedCount: number;
}

/** A relay through each other site of the plan. Yields the share done. */
export function* searchRelaySites(
  world: World,
  link: Link,
  profileBetween: ProfileSource,
  makeId: () => string,
): Generator<number, FoundRelays> {
  const { a, b } = linkEnds(world, link);
  const ways: WayOut[] = [];
  const before = trialOf(world, profileBetween);
  const works = (one: Link) =>
    one.id !== link.id && holds(world.plan, world.radios.get(one.aRadioId)!.frequencyMHz, before.answer(one.id));
  const fed = fedSites(world, works);
  const others = [...world.sites.values()].filter(({ id }) => id !== a.radio.siteId && id !== b.radio.siteId);
  for (const [i, relay] of others.entries()) {
    yield i / others.length;
    if (nearer(relay, a.place, b.place) < LEAST_LEG_M) continue;
    const isFed = link.kind === "access" && fed.has(relay.id);
    const over = overRelay(world, link, relay, isFed, makeId);
    if (!over) continue;
    // A sector that stands there already is no relay; serving from it is tried by itself.
    const isNewSector = over.patches.some(({ kind, put }) => kind === "radios" && put?.siteId === relay.id);
    if (isFed && !isNewSector) continue;
    const found = tryPatches(before, over.patches, over.linkIds);
    if (!found || !found.outcome.served) continue;
    ways.push({
      kind: "relaySite",
      label: isFed ? `A new sector on ${relay.name}` : `Relay over ${relay.name}`,
      effect: effectText(found.outcome, found.costEur),
      caution: mountsLeft(world, relay) <= 0 ? `${relay.name} has no mount left` : "",
      patches: over.patches,
      costEur: found.costEur,
      outcome: found.outcome,
    });
  }
  return { ways, triedCount: others.length };
}

function nearer(place: Place, a: Place, b: Place): number {
  return Math.min(inverseGeodesic(place, a).distanceM, inverseGeodesic(place, b).distanceM);
}

/** The highest cell of every block of the ground about a path, as far out as a third of its length. */
function highPointsAbout(heightAt: HeightAt, a: Place, b: Place): HighPoint[] {
  const { distanceM } = inverseGeodesic(a, b);
  const steps = Math.max(2, Math.min(16, Math.round((distanceM * 1.7) / BLOCKS / 30)));
  return highPoints(heightAt, boundsOf([a, b], distanceM / 3), BLOCKS, steps);
}

/** Clearance of a leg as a share of the first zone, both ends at given heights; null where it cannot be answered. */
export function legShare(
  from: Place,
  fromM: number,
  to: Place,
  toM: number,
  kFactor: number,
  profileBetween: ProfileSource,
): number | null {
  const profile = profileBetween(from, to);
  if (pathProblem(profile)) return null;
  return checkClearance(
    {
      profile,
      heightsM: obstructionHeightsM(profile, false),
      aAmslM: profile.groundAmslM[0]! + fromM,
      bAmslM: profile.groundAmslM.at(-1)! + toM,
      frequencyGHz: DEFAULT_BRIDGE_MHZ / 1000,
    },
    { kFactor, wantedShare: 0.6 },
  ).worstShare;
}

/**
 * A relay on the terrain's own high points: the highest cell of each block about the path, a mast of `mastM` put on it.
 * Legs are first looked at for clearance; the clearest are answered in full. Yields the share done.
 */
export function* searchRelayPeaks(
  world: World,
  link: Link,
  mastM: number,
  heightAt: HeightAt,
  profileBetween: ProfileSource,
  makeId: () => string,
): Generator<number, FoundRelays> {
  const { a, b } = linkEnds(world, link);
  const before = trialOf(world, profileBetween);
  const { kFactor } = world.plan;
  const points = highPointsAbout(heightAt, a.place, b.place).filter(
    (point) => nearer(point, a.place, b.place) >= LEAST_LEG_M,
  );
  const seen: { point: HighPoint; share: number; throughM: number }[] = [];
  for (const [i, point] of points.entries()) {
    if (i % 32 === 0) yield (0.8 * i) / points.length;
    const one = legShare(a.place, a.maxHeightM, point, mastM, kFactor, profileBetween);
    if (one === null || one < 0) continue;
    const other = legShare(point, mastM, b.place, b.maxHeightM, kFactor, profileBetween);
    if (other === null || other < 0) continue;
    const throughM = inverseGeodesic(a.place, point).distanceM + inverseGeodesic(point, b.place).distanceM;
    seen.push({ point, share: Math.min(one, other), throughM });
  }
  // Beyond a free zone more clearance buys nothing; then the shorter way.
  seen.sort((x, y) => Math.min(1, y.share) - Math.min(1, x.share) || x.throughM - y.throughM);
  const ways: WayOut[] = [];
  const taken: Place[] = [];
  for (const [i, { point }] of seen.slice(0, MOST_TRIED).entries()) {
    yield 0.8 + (0.2 * i) / MOST_TRIED;
    if (ways.length >= MOST_PEAKS) break;
    if (taken.some((other) => inverseGeodesic(other, point).distanceM < LEAST_LEG_M * 2)) continue;
    const name = `Relay ${point.groundAmslM.toFixed(0)} m`;
    const relay = { ...newMast(world.plan.id, makeId(), name, point, mastM), freeMounts: 2 };
    const sitePatch = putPatch("sites", relay);
    const over = overRelay(withPatches(world, [sitePatch]), link, relay, false, makeId);
    if (!over) continue;
    const patches = [sitePatch, ...over.patches];
    const found = tryPatches(before, patches, over.linkIds);
    if (!found || !found.outcome.served) continue;
    taken.push(point);
    ways.push({
      kind: "relayPeak",
      label: `Put a relay on the high ground at ${point.groundAmslM.toFixed(0)} m, ${whereFrom(a.place, point)} of ${a.placeName}`,
      effect: effectText(found.outcome, found.costEur),
      caution: `a new ${mastM} m mast with its own power; access, owner and building law are not looked at`,
      patches,
      costEur: found.costEur,
      outcome: found.outcome,
    });
  }
  return { ways, triedCount: points.length };
}

function whereFrom(from: Place, to: Place): string {
  const { distanceM, azimuthDeg } = inverseGeodesic(from, to);
  return `${(distanceM / 1000).toFixed(1)} km toward ${azimuthDeg.toFixed(0)}°`;
}
