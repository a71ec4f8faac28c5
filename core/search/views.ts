import { answering, isLinkServed, type ProfileSource } from "../outcome";
import { choosingIn, firstAccess, firstBridge, firstClient, type Choosing, type Proposed } from "../propose";
import type { Air } from "../interference";
import { inverseGeodesic, type Geodesic, type Place } from "../geodesy";
import { isServed, wantedMarginDb, weakestMarginDb, type LinkAnswer, type PathState } from "../link";
import { linkEnds, type Link, type Radio, type Site, type Subscriber, type World } from "../plan";

/** How one place sees another, tried with kit of the library. */
export interface ViewRow {
  id: string;
  name: string;
  kind: "site" | "subscriber";
  distanceM: number;
  state: PathState;
  /** Clearance at the worst point as a share of the first zone; null without an answer. */
  zoneShare: number | null;
  /** Level at the far place, dBm, and the weaker direction's margin, dB. */
  /** On each chain at the far end, dBm. */
  levelDbm: number | null;
  marginDb: number | null;
  downMbps: number;
  upMbps: number;
  served: boolean;
  /** What a near miss lacks, in words: "3 m more at the farm". Empty where it is served or hopeless. */
  lacks: string;
  /** The same as a number by which misses are ranked; 0 where served and clear, null where hopeless. */
  missBy: number | null;
}

/** More than this is no near miss. */
const MOST_METRES = 15;
const MOST_DB = 12;
const upToHalf = (metres: number) => Math.ceil(metres * 2) / 2;

/** What a site may be joined with. */
type FarPlace = { kind: "site"; row: Site } | { kind: "subscriber"; row: Subscriber };

/** What all rows of one view share. */
interface View {
  world: World;
  /**
   * A copy of the plan's radios into which each pair's are put and taken out again: copying it for each would cost more than its
   * path.
   */
  radios: Map<string, Radio>;
  /** The plan with these. */
  trial: World;
  answerIn: (link: Link, line: Geodesic) => LinkAnswer;
  choosing: Choosing;
  makeId: () => string;
}

function viewOf(world: World, profileBetween: ProfileSource, makeId: () => string, air: Air | null = null): View {
  const radios = new Map(world.radios);
  const trial = { ...world, radios };
  // What is put in for a trial has no link, so that it is silent: what is on the air stays the same.
  return { world, radios, trial, answerIn: answering(trial, profileBetween, air), choosing: choosingIn(world), makeId };
}

/** Answers a proposed link with its radios in the plan, and gives what `told` makes of it while they are there. */
function tried<T>(
  { radios, trial, answerIn }: View,
  proposed: Proposed,
  way: Geodesic,
  told: (answer: LinkAnswer, trial: World) => T,
): T {
  for (const radio of proposed.radios) radios.set(radio.id, radio);
  try {
    return told(answerIn(proposed.link, way), trial);
  } finally {
    for (const { id } of proposed.radios) radios.delete(id);
  }
}

/**
 * Things that lie some way from one place, by their bearings: paths beside each other cross the same ground, which then still lies
 * in the processor's cache; in any other order each costs half as much again.
 */
const byBearing = <T extends { way: Geodesic }>(things: readonly T[]): T[] =>
  [...things].sort((x, y) => x.way.azimuthDeg - y.way.azimuthDeg);

/** A site's view of some places, in their order. */
function rowsFrom(view: View, from: Site, places: readonly FarPlace[]): ViewRow[] {
  const rows = new Array<ViewRow>(places.length);
  const ways = places.map((to, i) => ({ i, to, way: inverseGeodesic(from, to.row) }));
  for (const { i, to, way } of byBearing(ways)) rows[i] = rowFor(view, from, to, to, way);
  return rows;
}

/** One pair; `seen` is the one of the two that is looked at, and `way` the way between them. */
function rowFor(
  view: View,
  from: Site,
  to: FarPlace,
  seen: FarPlace,
  way: Geodesic = inverseGeodesic(from, to.row),
): ViewRow {
  const { world, makeId, choosing } = view;
  const none: ViewRow = {
    id: seen.row.id,
    name: seen.row.name,
    kind: seen.kind,
    distanceM: way.distanceM,
    state: "unknown",
    zoneShare: null,
    levelDbm: null,
    marginDb: null,
    downMbps: 0,
    upMbps: 0,
    served: false,
    lacks: "",
    missBy: null,
  };
  const proposed =
    to.kind === "site"
      ? firstBridge(world, from, to.row, makeId)
      : firstAccess(world, from, to.row, makeId, choosing, way);
  if (!proposed) return { ...none, lacks: "no fitting kit in the library" };
  return tried(view, proposed, way, (answer, trial) => answeredRow(trial, proposed.link, none, answer));
}

function answeredRow(trial: World, link: Link, none: ViewRow, answer: LinkAnswer): ViewRow {
  if (!answer.path) return { ...none, lacks: answer.problem?.kind === "hole" ? "the terrain has a hole" : "one place" };
  const { a, b } = linkEnds(trial, link);
  const { clearance, aToB, bToA } = answer.path;
  const frequencyMHz = a.radio.frequencyMHz;
  const served = isServed(trial.plan, { a, b }, answer);
  const marginDb = weakestMarginDb(answer)!;
  const row: ViewRow = {
    ...none,
    state: answer.state,
    zoneShare: clearance.worstShare,
    levelDbm: aToB.chainLevelDbm,
    marginDb,
    downMbps: aToB.rateMbps,
    upMbps: bToA.rateMbps,
    served,
  };
  if (served && answer.state === "clear") return { ...row, missBy: 0 };
  // What the ground takes now is won back once it is cleared; what then is still short, height will not mend.
  const wonDb = answer.state === "clear" ? 0 : aToB.question.path.diffractionDb + aToB.question.path.trees.lossDb;
  const shortDb = wantedMarginDb(trial.plan, frequencyMHz) - marginDb - wonDb;
  if (shortDb > MOST_DB) return row;
  const level = shortDb > 0 ? `${shortDb.toFixed(1)} dB more` : "";
  if (answer.state === "clear") return { ...row, missBy: shortDb, lacks: level };
  const [rise] = [
    { end: b, metres: upToHalf(clearance.leastHeightBM - b.radio.heightM) },
    { end: a, metres: upToHalf(clearance.leastHeightAM - a.radio.heightM) },
  ].sort((x, y) => x.metres - y.metres) as [{ end: typeof a; metres: number }, unknown];
  const { end, metres } = rise;
  if (metres > MOST_METRES) return row;
  const tooHigh = end.radio.heightM + metres > end.maxHeightM ? `, above its ${end.maxHeightM} m` : "";
  const height = `${metres} m more at ${end.placeName}${tooHigh}`;
  return { ...row, missBy: metres + Math.max(0, shortDb), lacks: level ? `${height}, and ${level}` : height };
}

/** Served first by rate and margin, then the nearest misses, then the rest by distance. */
export function byPromise(x: ViewRow, y: ViewRow): number {
  if (x.served !== y.served) return x.served ? -1 : 1;
  if (x.served)
    return (
      Number(x.state !== "clear") - Number(y.state !== "clear") || y.downMbps - x.downMbps || y.marginDb! - x.marginDb!
    );
  if (x.missBy !== y.missBy) return (x.missBy ?? Infinity) - (y.missBy ?? Infinity);
  return x.distanceM - y.distanceM;
}

/** Places looked at from one; in a larger plan the nearest ones are. */
export const MOST_SEEN = 2000;

function nearest<T extends Place>(from: Place, places: T[]): T[] {
  if (places.length <= MOST_SEEN) return places;
  // Flat distances are good enough to leave out the farthest.
  const shrink = Math.cos((from.latDeg * Math.PI) / 180);
  const far = (place: T) => (place.latDeg - from.latDeg) ** 2 + ((place.lonDeg - from.lonDeg) * shrink) ** 2;
  return [...places].sort((x, y) => far(x) - far(y)).slice(0, MOST_SEEN);
}

/** Every subscriber, or every other site, as one site sees them; the nearest `MOST_SEEN` in a larger plan; of these every `of`th where several share the work. */
export function viewFromSite(
  world: World,
  site: Site,
  of: "subscribers" | "sites",
  profileBetween: ProfileSource,
  makeId: () => string,
  part: { index: number; of: number } = { index: 0, of: 1 },
): ViewRow[] {
  const view = viewOf(world, profileBetween, makeId);
  const all: FarPlace[] =
    of === "subscribers"
      ? nearest(site, [...world.subscribers.values()]).map((row) => ({ kind: "subscriber", row }))
      : nearest(
          site,
          [...world.sites.values()].filter(({ id }) => id !== site.id),
        ).map((row) => ({ kind: "site", row }));
  const seen = all.filter((_, i) => i % part.of === part.index);
  return rowsFrom(view, site, seen).sort(byPromise);
}

/** Some other sites as one site sees them, in their order. Whoever looks from many sites hands over what is on the air. */
export function viewOfSites(
  world: World,
  site: Site,
  others: readonly Site[],
  profileBetween: ProfileSource,
  makeId: () => string,
  air: Air | null = null,
): ViewRow[] {
  const view = viewOf(world, profileBetween, makeId, air);
  return rowsFrom(
    view,
    site,
    others.map((row): FarPlace => ({ kind: "site", row })),
  );
}

/** A customer to be tried on a sector of the plan, and the way there from the sector's site. */
export interface ToTry {
  subscriber: Subscriber;
  sector: Radio;
  way: Geodesic;
}

/**
 * Tries customers of one site each on the sector named for it, with kit of the library, and tells each answer; those for whom there
 * is no kit are passed over. Rows are not made: of ten thousand customers most are asked only whether they would be served.
 */
export function tryEach<T extends ToTry>(
  world: World,
  toTry: readonly T[],
  profileBetween: ProfileSource,
  makeId: () => string,
  air: Air,
  told: (one: T, answer: LinkAnswer, isServed: boolean) => void,
): void {
  const view = viewOf(world, profileBetween, makeId, air);
  for (const one of byBearing(toTry)) {
    const { subscriber, sector, way } = one;
    const proposed = firstClient(world, sector, subscriber, way.distanceM, makeId, view.choosing);
    if (proposed)
      tried(view, proposed, way, (answer, trial) => told(one, answer, isLinkServed(trial, proposed.link, answer)));
  }
}

/** Every site as one subscriber sees them. */
export function viewFromSubscriber(
  world: World,
  subscriber: Subscriber,
  profileBetween: ProfileSource,
  makeId: () => string,
): ViewRow[] {
  const view = viewOf(world, profileBetween, makeId);
  const to: FarPlace = { kind: "subscriber", row: subscriber };
  return nearest(subscriber, [...world.sites.values()])
    .map((site) => rowFor(view, site, to, { kind: "site", row: site }))
    .sort(byPromise);
}
