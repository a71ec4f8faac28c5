import { M_PER_DEG } from "../geodesy";
import KDBush from "kdbush";
import {
  fieldsOf,
  fieldsSet,
  fieldWord,
  newSite,
  newSubscriber,
  patchBetween,
  type Patch,
  type Site,
  type Subscriber,
  type World,
} from "../plan";

/** A place read from a file. */
export interface ReadPlace {
  /** The row that its author would count. */
  row: number;
  kind: "site" | "subscriber";
  name: string;
  latDeg: number;
  lonDeg: number;
  /** What the file says of it by column; what it leaves out stays as it is kept, or as is usual. */
  said: Readonly<Record<string, string | number | boolean>>;
}

export type Verdict = "new" | "changed" | "same" | "duplicate";

/** What would become of a read place. */
export interface PlaceVerdict {
  place: ReadPlace;
  verdict: Verdict;
  /** What it is a duplicate of, or which fields change. */
  note: string;
  /** Null where the place is kept already as it stands. */
  patch: Patch | null;
}

/** Returns a row as the file says, else as it is kept, else as is usual; fields that files do not hold stay as they are kept. */
function rowOf<Row extends Site | Subscriber>(
  kind: "sites" | "subscribers",
  { name, said }: ReadPlace,
  fresh: Row,
  before: Row | undefined,
): Row {
  const row: Record<string, unknown> = { ...fresh, ...before };
  for (const { name: field, facts } of fieldsOf(kind))
    if (facts.column) row[field] = said[facts.column.key] ?? row[field];
  return { ...(row as unknown as Row), name, latDeg: fresh.latDeg, lonDeg: fresh.lonDeg };
}

function asSite(planId: string, id: string, place: ReadPlace, before: Site | undefined): Site {
  const { name, latDeg, lonDeg, said } = place;
  const row = rowOf("sites", place, newSite({ id, planId, name, latDeg, lonDeg }), before);
  // A file with one height for all means the structure's at a site.
  return said.maxHeight === undefined && said.height !== undefined
    ? { ...row, structureHeightM: Number(said.height) }
    : row;
}

/** Room above the usual antenna that a new customer's pole is taken to have, m. */
const POLE_ROOM_M = 3;

function asSubscriber(planId: string, id: string, place: ReadPlace, before: Subscriber | undefined): Subscriber {
  const { name, latDeg, lonDeg, said } = place;
  const row = rowOf("subscribers", place, newSubscriber({ id, planId, name, latDeg, lonDeg }), before);
  if (said.maxHeight !== undefined) return row;
  const leastM = before ? row.antennaHeightM : row.antennaHeightM + POLE_ROOM_M;
  return { ...row, maxHeightM: Math.max(before?.maxHeightM ?? 0, leastM) };
}

/** Places that stand so near one another that they may be one, found by a tree over all of a kind. */
function nearFinder(places: readonly { name: string; latDeg: number; lonDeg: number }[], nearM: number) {
  const tree = new KDBush(Math.max(1, places.length));
  if (places.length === 0) tree.add(1e9, 1e9);
  const middle = (places[0]?.latDeg ?? 0) * (Math.PI / 180);
  const x = (lonDeg: number) => lonDeg * M_PER_DEG * Math.cos(middle);
  const y = (latDeg: number) => latDeg * M_PER_DEG;
  for (const { latDeg, lonDeg } of places) tree.add(x(lonDeg), y(latDeg));
  tree.finish();
  return (latDeg: number, lonDeg: number) =>
    nearM <= 0 ? [] : tree.within(x(lonDeg), y(latDeg), nearM).filter((index) => index < places.length);
}

/**
 * Says of every read place whether it is new, changes a kept one (same kind and name), is already kept as it stands, or
 * may be a duplicate: the second of its name in the file, or within `nearM` metres of another of its kind. Deterministic
 * but for the ids that `makeId` gives.
 */
export function placeVerdicts(
  world: Pick<World, "plan" | "sites" | "subscribers">,
  places: readonly ReadPlace[],
  nearM: number,
  makeId: () => string,
): PlaceVerdict[] {
  const verdicts: PlaceVerdict[] = [];
  const kept = { site: [...world.sites.values()], subscriber: [...world.subscribers.values()] };
  const byName = {
    site: new Map(kept.site.map((one) => [one.name.toLowerCase(), one])),
    subscriber: new Map(kept.subscriber.map((one) => [one.name.toLowerCase(), one])),
  };
  const read = {
    site: places.filter(({ kind }) => kind === "site"),
    subscriber: places.filter(({ kind }) => kind === "subscriber"),
  };
  const nearKept = { site: nearFinder(kept.site, nearM), subscriber: nearFinder(kept.subscriber, nearM) };
  const nearRead = { site: nearFinder(read.site, nearM), subscriber: nearFinder(read.subscriber, nearM) };
  const seen = { site: new Map<string, number>(), subscriber: new Map<string, number>() };

  for (const place of places) {
    const { kind, latDeg, lonDeg } = place;
    const key = place.name.toLowerCase();
    const before = byName[kind].get(key);
    const first = seen[kind].get(key);
    const id = before && first === undefined ? before.id : makeId();
    const planId = world.plan.id;
    const isKept = first === undefined ? before : undefined;
    const patch =
      kind === "site"
        ? patchBetween("sites", isKept as Site | undefined, asSite(planId, id, place, before as Site | undefined))
        : patchBetween(
            "subscribers",
            isKept as Subscriber | undefined,
            asSubscriber(planId, id, place, before as Subscriber | undefined),
          );
    const add = (verdict: Verdict, note: string) => verdicts.push({ place, verdict, note, patch });
    if (first !== undefined) {
      add("duplicate", `the name stands in row ${first} already`);
      continue;
    }
    seen[kind].set(key, place.row);
    if (before) {
      const changes = patch ? fieldsSet(patch) : [];
      add(
        changes.length === 0 ? "same" : "changed",
        changes.map((field) => fieldWord(kind === "site" ? "sites" : "subscribers", field)).join(", "),
      );
      continue;
    }
    const keptNear = nearKept[kind](latDeg, lonDeg)[0];
    const readNear = nearRead[kind](latDeg, lonDeg).find((index) => read[kind][index]!.row < place.row);
    if (keptNear !== undefined) add("duplicate", `within ${nearM} m of ${kept[kind][keptNear]!.name}`);
    else if (readNear !== undefined) add("duplicate", `within ${nearM} m of row ${read[kind][readNear]!.row}`);
    else add("new", "");
  }
  return verdicts;
}
