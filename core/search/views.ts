import { answerOf, proposeAccess, proposeBridge, type ProfileSource } from "../findings";
import { inverseGeodesic } from "../geodesy";
import { isServed, wantedMarginDb, weakestMarginDb, type PathState } from "../link";
import { endOf, linkEnds, withEdits, type Edit, type Link, type Site, type Subscriber, type World } from "../plan";

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

/** The edits and the link by which one place would be joined with another; null where the library has no kit. */
export function joiningEdits(
  world: World,
  from: Site,
  to: { kind: "site"; row: Site } | { kind: "subscriber"; row: Subscriber },
  makeId: () => string,
): { edits: Edit[]; link: Link } | null {
  const edits =
    to.kind === "site" ? proposeBridge(world, from, to.row, makeId) : proposeAccess(world, from, to.row, makeId);
  return edits && { edits, link: edits.at(-1)!.row as Link };
}

function rowFor(
  world: World,
  from: Site,
  to: { kind: "site"; row: Site } | { kind: "subscriber"; row: Subscriber },
  seen: { id: string; name: string; kind: ViewRow["kind"] },
  profileBetween: ProfileSource,
  makeId: () => string,
): ViewRow {
  const { distanceM } = inverseGeodesic(from, to.row);
  const none: ViewRow = {
    ...seen,
    distanceM,
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
  const joined = joiningEdits(world, from, to, makeId);
  if (!joined) return { ...none, lacks: "no fitting kit in the library" };
  const tried = withEdits(world, joined.edits);
  const answer = answerOf(tried, joined.link, profileBetween);
  if (!answer.path) return { ...none, lacks: answer.problem?.kind === "hole" ? "the terrain has a hole" : "one place" };
  const { a, b } = linkEnds(tried, joined.link);
  const { clearance, aToB, bToA } = answer.path;
  const frequencyMHz = endOf(tried, joined.link.aRadioId).radio.frequencyMHz;
  const served = isServed(tried.plan, frequencyMHz, answer);
  const marginDb = weakestMarginDb(answer)!;
  const row: ViewRow = {
    ...none,
    state: answer.state,
    zoneShare: clearance.worstShare,
    levelDbm: aToB.levelDbm,
    marginDb,
    downMbps: aToB.rateMbps,
    upMbps: bToA.rateMbps,
    served,
  };
  if (served && answer.state === "clear") return { ...row, missBy: 0 };
  if (answer.state !== "clear") {
    const rises = [
      { end: b, metres: upToHalf(clearance.leastHeightBM - b.radio.heightM) },
      { end: a, metres: upToHalf(clearance.leastHeightAM - a.radio.heightM) },
    ].sort((x, y) => x.metres - y.metres);
    const { end, metres } = rises[0]!;
    if (metres <= MOST_METRES) {
      const tooHigh = end.radio.heightM + metres > end.maxHeightM ? `, above its ${end.maxHeightM} m` : "";
      return { ...row, missBy: metres, lacks: `${metres} m more at ${end.placeName}${tooHigh}` };
    }
    return row;
  }
  const shortDb = wantedMarginDb(tried.plan, frequencyMHz) - marginDb;
  return shortDb <= MOST_DB ? { ...row, missBy: shortDb, lacks: `${shortDb.toFixed(1)} dB more` } : row;
}

/** Served first by rate and margin, then the nearest misses, then the rest by distance. */
function byPromise(x: ViewRow, y: ViewRow): number {
  if (x.served !== y.served) return x.served ? -1 : 1;
  if (x.served)
    return (
      Number(x.state !== "clear") - Number(y.state !== "clear") || y.downMbps - x.downMbps || y.marginDb! - x.marginDb!
    );
  if (x.missBy !== y.missBy) return (x.missBy ?? Infinity) - (y.missBy ?? Infinity);
  return x.distanceM - y.distanceM;
}

/** Every subscriber, or every other site, as one site sees them. */
export function viewFromSite(
  world: World,
  site: Site,
  of: "subscribers" | "sites",
  profileBetween: ProfileSource,
  makeId: () => string,
): ViewRow[] {
  const rows =
    of === "subscribers"
      ? [...world.subscribers.values()].map((row) =>
          rowFor(
            world,
            site,
            { kind: "subscriber", row },
            { id: row.id, name: row.name, kind: "subscriber" },
            profileBetween,
            makeId,
          ),
        )
      : [...world.sites.values()]
          .filter(({ id }) => id !== site.id)
          .map((row) =>
            rowFor(
              world,
              site,
              { kind: "site", row },
              { id: row.id, name: row.name, kind: "site" },
              profileBetween,
              makeId,
            ),
          );
  return rows.sort(byPromise);
}

/** Every site as one subscriber sees them. */
export function viewFromSubscriber(
  world: World,
  subscriber: Subscriber,
  profileBetween: ProfileSource,
  makeId: () => string,
): ViewRow[] {
  return [...world.sites.values()]
    .map((site) =>
      rowFor(
        world,
        site,
        { kind: "subscriber", row: subscriber },
        { id: site.id, name: site.name, kind: "site" },
        profileBetween,
        makeId,
      ),
    )
    .sort(byPromise);
}
