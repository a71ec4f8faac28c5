import { destination, inverseGeodesic, type Place } from "../geodesy";
import { answerOf, isLinkServed, type ProfileSource } from "../outcome";
import { earsOf, listeningIn } from "../interference";
import { weakestMarginDb, type PathState } from "../link";
import { linkEnds, setPatch, withPatches, type Patch, type Link, type World } from "../plan";
import { lostLinks, trialOf } from "../trial";
import { counted } from "../words";
import { effectText, tryPatches, type WayOut } from "./try";

/** What a path would be with one end moved to a place. */
export interface HeatPoint extends Place {
  state: PathState;
  /** Clearance at the worst point as a share of the first zone; null where there is no answer. */
  share: number | null;
  marginDb: number | null;
  served: boolean;
}

/** Rings of points about an end; the outermost lies on the radius. */
const RINGS = 12;
/** Best points offered as a move. */
const MOST_MOVES = 3;
const DIRECTIONS = ["north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west"];

/** Places on rings about `centre`, evenly dense, each snapped to about a tenth of a metre. */
export function ringPlaces(centre: Place, radiusM: number): Place[] {
  const places: Place[] = [];
  for (let ring = 1; ring <= RINGS; ring++) {
    const count = Math.max(6, Math.round(2 * Math.PI * ring));
    for (let i = 0; i < count; i++) {
      const { latDeg, lonDeg } = destination(centre, (360 * i) / count, (radiusM * ring) / RINGS);
      places.push({ latDeg: Math.round(latDeg * 1e6) / 1e6, lonDeg: Math.round(lonDeg * 1e6) / 1e6 });
    }
  }
  return places;
}

/** The patch that moves the place at one end of a link. */
function movePatch(world: World, radioId: string, place: Place): Patch {
  const { siteId, subscriberId } = world.radios.get(radioId)!;
  const { latDeg, lonDeg } = place;
  return siteId !== null
    ? setPatch("sites", siteId, { latDeg, lonDeg })
    : setPatch("subscribers", subscriberId!, { latDeg, lonDeg });
}

/** Other links that end at the same place and would move with it. */
function companions(world: World, link: Link, radioId: string): Link[] {
  const { siteId, subscriberId } = world.radios.get(radioId)!;
  const isHere = (id: string) => {
    const radio = world.radios.get(id)!;
    return siteId !== null ? radio.siteId === siteId : radio.subscriberId === subscriberId;
  };
  return [...world.links.values()].filter(
    (other) => other.id !== link.id && (isHere(other.aRadioId) || isHere(other.bRadioId)),
  );
}

/**
 * Moves one end of a link to every place within `radiusM` and answers the link from there, its height above ground kept.
 * Yields the share done; returns the heat and the best moves. A move that would lose another link is not offered.
 */
export function* searchMoves(
  world: World,
  link: Link,
  end: "a" | "b",
  radiusM: number,
  profileBetween: ProfileSource,
): Generator<number, { heat: HeatPoint[]; ways: WayOut[] }> {
  const { a, b } = linkEnds(world, link);
  const moved = end === "a" ? a : b;
  const radioId = moved.radio.id;
  const heat: HeatPoint[] = [];
  const places = ringPlaces(moved.place, radiusM);
  // A few hundred metres change little of what is heard: only what is offered is asked again.
  const heard = earsOf(listeningIn(world), profileBetween)(link);
  for (const [i, place] of places.entries()) {
    const tried = withPatches(world, [movePatch(world, radioId, place)]);
    const answer = answerOf(tried, link, profileBetween, heard);
    heat.push({
      ...place,
      state: answer.state,
      share: answer.path?.clearance.worstShare ?? null,
      marginDb: weakestMarginDb(answer),
      served: isLinkServed(tried, link, answer),
    });
    if (i % 16 === 0) yield i / places.length;
  }
  const others = companions(world, link, radioId);
  const before = trialOf(world, profileBetween);
  const far = (point: Place) => inverseGeodesic(moved.place, point).distanceM;
  const worth = (point: HeatPoint) =>
    (point.served ? 2 : 0) + (point.state === "clear" ? 1 : 0) + (point.state === "blocked" ? -1 : 0);
  const ranked = heat
    .filter(({ state }) => state !== "unknown")
    .map((point) => ({ point, farM: far(point) }))
    .sort((x, y) => worth(y.point) - worth(x.point) || x.farM - y.farM);
  const ways: WayOut[] = [];
  for (const { point, farM } of ranked) {
    if (ways.length >= MOST_MOVES || (!point.served && ways.length > 0)) break;
    // Moves close to one another are one move.
    if (ways.some((way) => inverseGeodesic(placeIn(way.patches), point).distanceM < radiusM / 3)) continue;
    const patches = [movePatch(world, radioId, { latDeg: point.latDeg, lonDeg: point.lonDeg })];
    const found = tryPatches(before, patches, [link.id]);
    if (!found || lostLinks(before, found.after, others).length > 0) continue;
    const bearing = inverseGeodesic(moved.place, point).azimuthDeg;
    ways.push({
      kind: "move",
      label: `Move ${moved.placeName} ${farM.toFixed(0)} m to the ${DIRECTIONS[Math.round(bearing / 45) % 8]!}`,
      effect: effectText(found.outcome, found.costEur),
      caution: `the new place must bear the same ${moved.radio.heightM} m, and its owner agree${others.length > 0 ? `; ${counted(others.length, "other link moves", "other links move")} too, none is lost` : ""}`,
      patches,
      costEur: found.costEur,
      outcome: found.outcome,
    });
  }
  return { heat, ways };
}

function placeIn(patches: Patch[]): Place {
  return patches[0]!.set as Place;
}
