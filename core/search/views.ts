import { answering, type ProfileSource } from "../outcome";
import { choosingIn, proposeAccess, proposeBridge, type Choosing } from "../propose";
import type { Air } from "../interference";
import { inverseGeodesic, type Geodesic, type Place } from "../geodesy";
import { isServed, wantedMarginDb, weakestMarginDb, type LinkAnswer, type PathState } from "../link";
import { endOf, linkEnds, tuned, type Patch, type Link, type Site, type Subscriber, type World } from "../plan";

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

/** The patches and the link by which one place would be joined with another; null where the library has no kit. */
function joiningPatches(
  from: Site,
  to: FarPlace,
  way: Geodesic,
  { world, choosing, makeId }: View,
): { patches: Patch[]; link: Link } | null {
  const patches =
    to.kind === "site"
      ? proposeBridge(world, from, to.row, makeId)
      : proposeAccess(world, from, to.row, makeId, choosing, way);
  return patches && { patches, link: patches.at(-1)!.put as Link };
}

/** What all rows of one view share. */
interface View {
  world: World;
  /**
   * A copy of the plan into which each pair's radios are put and taken out again: copying it for each would cost more than its
   * path.
   */
  trial: World;
  answerIn: (link: Link, line: Geodesic) => LinkAnswer;
  choosing: Choosing;
  makeId: () => string;
}

function viewOf(world: World, profileBetween: ProfileSource, makeId: () => string, air: Air | null = null): View {
  const trial = { ...world, radios: new Map(world.radios), carriers: new Map(world.carriers) };
  // What is put in for a trial has no link, so that it is silent: what is on the air stays the same.
  return { world, trial, answerIn: answering(trial, profileBetween, air), choosing: choosingIn(world), makeId };
}

/** Ways from a site to some of the places that it looks at. */
type KnownWays = ReadonlyMap<Site | Subscriber, Geodesic>;

/**
 * A site's view of some places, in their order. They are answered by their bearings: paths beside each other cross the same ground,
 * which then still lies in the processor's cache; in any other order each costs half as much again.
 */
function rowsFrom(view: View, from: Site, places: readonly FarPlace[], known?: KnownWays): ViewRow[] {
  const rows = new Array<ViewRow>(places.length);
  const ways = places.map((to, i) => ({ i, to, way: known?.get(to.row) ?? inverseGeodesic(from, to.row) }));
  for (const { i, to, way } of ways.sort((x, y) => x.way.azimuthDeg - y.way.azimuthDeg))
    rows[i] = rowFor(view, from, to, to, way);
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
  const { trial, answerIn } = view;
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
  const joined = joiningPatches(from, to, way, view);
  if (!joined) return { ...none, lacks: "no fitting kit in the library" };
  for (const { kind, put } of joined.patches) if (kind === "carriers" && put) trial.carriers.set(put.id, put);
  for (const { kind, put } of joined.patches)
    if (kind === "radios" && put) trial.radios.set(put.id, tuned(put, trial.carriers));
  try {
    return answeredRow(trial, joined.link, none, answerIn(joined.link, way));
  } finally {
    for (const { kind, id } of joined.patches) {
      if (kind === "radios") trial.radios.delete(id);
      if (kind === "carriers") trial.carriers.delete(id);
    }
  }
}

function answeredRow(tried: World, link: Link, none: ViewRow, answer: LinkAnswer): ViewRow {
  if (!answer.path) return { ...none, lacks: answer.problem?.kind === "hole" ? "the terrain has a hole" : "one place" };
  const { a, b } = linkEnds(tried, link);
  const { clearance, aToB, bToA } = answer.path;
  const frequencyMHz = endOf(tried, link.aRadioId).radio.frequencyMHz;
  const served = isServed(tried.plan, { a, b }, answer);
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
  const shortDb = wantedMarginDb(tried.plan, frequencyMHz) - marginDb - wonDb;
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

/**
 * Some subscribers, or some other sites, as one site sees them, in their order; each kind may be empty. Whoever looks from many sites
 * hands over what is on the air; whoever knows the ways already, those.
 */
export function viewOfSome(
  world: World,
  site: Site,
  {
    subscribers = [],
    sites = [],
    ways,
  }: { subscribers?: readonly Subscriber[]; sites?: readonly Site[]; ways?: KnownWays },
  profileBetween: ProfileSource,
  makeId: () => string,
  air: Air | null = null,
): ViewRow[] {
  const view = viewOf(world, profileBetween, makeId, air);
  const seen: FarPlace[] = [
    ...subscribers.map((row): FarPlace => ({ kind: "subscriber", row })),
    ...sites.map((row): FarPlace => ({ kind: "site", row })),
  ];
  return rowsFrom(view, site, seen, ways);
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
