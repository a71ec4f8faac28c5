import type { AntennaModel } from "../antenna";
import type { RadioModel } from "../radio";
import { ruleSetOf } from "../regulation";
import { tuned, untuned } from "./carriers";
import {
  LIST_KINDS,
  type Equipment,
  type Link,
  type ListKind,
  type Plan,
  type Radio,
  type RowKind,
  type RowKinds,
  type Scan,
} from "./kinds";
import type { Part } from "./part";
import { patched, type Patch } from "./patch";
import type { Procedure } from "./procedure";
import { changesRequired, requiredRates, type RequiredRate } from "./required";

/** Everything of one plan as rows; the bytes of rasters and photographs lie apart, under the ids of theirs. */
export type PlanRows = { plan: Plan } & { [K in ListKind]: RowKinds[K][] };

/** A plan's rows with nothing in them yet. */
export const emptyRows = (plan: Plan): PlanRows => listsOf(plan, () => []);

/** A plan's rows, each list as `list` makes it. */
const listsOf = (plan: Plan, list: (kind: ListKind) => object[]): PlanRows =>
  Object.assign({ plan }, Object.fromEntries(LIST_KINDS.map((kind) => [kind, list(kind)]))) as unknown as PlanRows;

/** Kinds whose rows a world holds by id just as they are. */
type PlainKind = Exclude<ListKind, "radios" | "equipment">;
const PLAIN_KINDS = LIST_KINDS.filter((kind): kind is PlainKind => kind !== "radios" && kind !== "equipment");

/** A plan with its things found by id in one step. */
export interface World extends Indexes {
  plan: Plan;
  radios: Map<string, Radio>;
  /** Links by the access point or near bridge end that they stand on. */
  linksByNear: ReadonlyMap<string, readonly Link[]>;
  /** What each bridge must carry, as far as that is known. */
  required: ReadonlyMap<string, RequiredRate>;
  /** Scans by the site at which they were taken. */
  scansBySite: ReadonlyMap<string, readonly Scan[]>;
  radioModels: Map<string, RadioModel>;
  antennaModels: Map<string, AntennaModel>;
  parts: Map<string, Part>;
  /** Own procedures, beside those that ship with Tejado. */
  procedures: Map<string, Procedure>;
}
type Indexes = { [K in PlainKind]: Map<string, RowKinds[K]> };

/** The shelf of the library on which each kind of sheet lies. */
const SHELF = { radio: "radioModels", antenna: "antennaModels", part: "parts", procedure: "procedures" } as const;
const SHELVES = Object.entries(SHELF) as [Equipment["kind"], (typeof SHELF)[Equipment["kind"]]][];
type Shelves = Pick<World, (typeof SHELF)[Equipment["kind"]]>;

const byId = <T extends { id: string }>(rows: T[]) => new Map(rows.map((row) => [row.id, row]));

function groupedBy<Row>(rows: Iterable<Row>, keyOf: (row: Row) => string): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}
const bySite = (scans: Iterable<Scan>) => groupedBy(scans, ({ siteId }) => siteId);
const byNear = (links: Iterable<Link>) => groupedBy(links, ({ aRadioId }) => aRadioId);

/** The links that stand on one access point or near bridge end: they share its channel. */
export const linksOn = (world: World, radioId: string): readonly Link[] => world.linksByNear.get(radioId) ?? NO_LINKS;
const NO_LINKS: readonly Link[] = [];

/** A world with other links in it. */
export const withLinks = (world: World, links: Map<string, Link>): World => ({
  ...world,
  links,
  linksByNear: byNear(links.values()),
  required: requiredRates({ ...world, links }),
});

export function worldOf(rows: PlanRows): World {
  ruleSetOf(rows.plan);
  const shelves: Shelves = {
    radioModels: new Map(),
    antennaModels: new Map(),
    parts: new Map(),
    procedures: new Map(),
  };
  for (const item of rows.equipment) shelve(shelves, item);
  const plain = Object.fromEntries(
    PLAIN_KINDS.map((kind) => [kind, byId<{ id: string }>(rows[kind])]),
  ) as unknown as Indexes;
  const radios = byId(rows.radios.map((row) => tuned(row, plain.carriers)));
  return {
    plan: rows.plan,
    ...plain,
    radios,
    linksByNear: byNear(rows.links),
    required: requiredRates({ plan: rows.plan, ...plain, radios }),
    scansBySite: bySite(rows.scans),
    ...shelves,
  };
}

/** Puts a sheet of the library among those of its kind. */
function shelve(to: Shelves, { kind, id, body }: Equipment): void {
  (to[SHELF[kind]] as Map<string, Equipment["body"]>).set(id, body);
}

/** The row of a kind as a world holds it: a radio without its channel, a model as equipment. */
export function rowIn(world: World, kind: Patch["kind"], id: string): object | null {
  if (kind === "plans") return world.plan.id === id ? world.plan : null;
  if (kind === "radios") return world.radios.has(id) ? untuned(world.radios.get(id)!) : null;
  if (kind !== "equipment") return world[kind].get(id) ?? null;
  for (const [sheet, shelf] of SHELVES) {
    const body = world[shelf].get(id);
    if (body) return { kind: sheet, id, planId: world.plan.id, body } as Equipment;
  }
  return null;
}

/** Iterates over the rows of one kind; radios carry their channel too. */
export function* rowsOfKind(world: World, kind: RowKind): Iterable<{ id: string }> {
  if (kind === "plans") yield world.plan;
  else if (kind !== "equipment") yield* world[kind].values();
  else for (const [, shelf] of SHELVES) for (const id of world[shelf].keys()) yield rowIn(world, kind, id) as Equipment;
}

/** A world's rows as lists. */
export function rowsOf(world: World): PlanRows {
  const models = SHELVES.flatMap(([, shelf]) => [...world[shelf].keys()]);
  return listsOf(world.plan, (kind) => {
    if (kind === "equipment") return models.map((id) => rowIn(world, kind, id)!);
    return kind === "radios" ? [...world.radios.values()].map(untuned) : [...world[kind].values()];
  });
}

/** The world as it would be with `patches` applied, in order; the given one is left alone. */
export function withPatches(world: World, patches: readonly Patch[]): World {
  if (patches.length === 0) return world;
  const next: World = {
    ...world,
    radioModels: new Map(world.radioModels),
    antennaModels: new Map(world.antennaModels),
    parts: new Map(world.parts),
    procedures: new Map(world.procedures),
  };
  const copied = new Set<string>();
  const rowsOf = (kind: Exclude<Patch["kind"], "plans" | "equipment">) => {
    if (!copied.has(kind)) {
      copied.add(kind);
      Object.assign(next, { [kind]: new Map<string, unknown>(world[kind]) });
    }
    return next[kind] as Map<string, unknown>;
  };
  const retune = new Set<string>();
  for (const patch of patches) {
    const { kind, id } = patch;
    const row = patched(rowIn(next, kind, id), patch);
    if (kind === "plans") {
      if (row) next.plan = row as Plan;
    } else if (kind === "equipment") {
      for (const [, shelf] of SHELVES) next[shelf].delete(id);
      if (row) shelve(next, row as Equipment);
    } else if (row) rowsOf(kind).set(id, row);
    else rowsOf(kind).delete(id);
    if (kind === "radios") retune.add(id);
  }
  // A radio may be put before its carrier, and a carrier moves all the radios on it: channels come last.
  const moved = new Set(patches.flatMap(({ kind, id }) => (kind === "carriers" ? [id] : [])));
  if (moved.size > 0) for (const radio of next.radios.values()) if (moved.has(radio.carrierId)) retune.add(radio.id);
  for (const id of retune) {
    const radio = next.radios.get(id);
    if (radio) rowsOf("radios").set(id, tuned(untuned(radio), next.carriers));
  }
  if (copied.has("links")) next.linksByNear = byNear(next.links.values());
  if (patches.some(changesRequired)) next.required = requiredRates(next);
  if (copied.has("scans")) next.scansBySite = bySite(next.scans.values());
  return next;
}
