import type { Alarm } from "./alarm";
import type { AntennaModel } from "../antenna";
import type { RadioModel } from "../radio";
import type { Part } from "./part";
import type { Procedure } from "./procedure";
import { ruleSetOf } from "../regulation";
import { tuned, untuned } from "./carriers";
import { patched, type Patch } from "./patch";
import { changesRequired, requiredRates, type RequiredRate } from "./required";
import type {
  Area,
  Carrier,
  Crew,
  Equipment,
  Layer,
  Link,
  Measurement,
  Outsider,
  Overlay,
  Photo,
  Plan,
  Radio,
  RadioRow,
  Scan,
  Site,
  Subscriber,
  Visit,
} from "./schema";

/** Everything of one plan as rows; the bytes of rasters and photographs lie apart, under the ids of theirs. */
export interface PlanRows {
  plan: Plan;
  sites: Site[];
  subscribers: Subscriber[];
  carriers: Carrier[];
  radios: RadioRow[];
  links: Link[];
  measurements: Measurement[];
  equipment: Equipment[];
  layers: Layer[];
  areas: Area[];
  overlays: Overlay[];
  scans: Scan[];
  outsiders: Outsider[];
  photos: Photo[];
  crews: Crew[];
  visits: Visit[];
  alarms: Alarm[];
}

/** A plan's rows with nothing in them yet. */
export function emptyRows(plan: Plan): PlanRows {
  return {
    plan,
    sites: [],
    subscribers: [],
    carriers: [],
    radios: [],
    links: [],
    measurements: [],
    equipment: [],
    layers: [],
    areas: [],
    overlays: [],
    scans: [],
    outsiders: [],
    photos: [],
    crews: [],
    visits: [],
    alarms: [],
  };
}

/** A plan with its things found by id in one step. */
export interface World {
  plan: Plan;
  sites: Map<string, Site>;
  subscribers: Map<string, Subscriber>;
  carriers: Map<string, Carrier>;
  radios: Map<string, Radio>;
  links: Map<string, Link>;
  /** The same by the access point or near bridge end that they stand on. */
  linksByNear: ReadonlyMap<string, readonly Link[]>;
  /** What each bridge must carry, as far as that is known. */
  required: ReadonlyMap<string, RequiredRate>;
  measurements: Map<string, Measurement>;
  layers: Map<string, Layer>;
  areas: Map<string, Area>;
  overlays: Map<string, Overlay>;
  scans: Map<string, Scan>;
  /** Transmitters of others whose place is known. */
  outsiders: Map<string, Outsider>;
  /** The same by the site at which they were taken. */
  scansBySite: ReadonlyMap<string, readonly Scan[]>;
  photos: Map<string, Photo>;
  crews: Map<string, Crew>;
  /** Jobs on roofs and masts. */
  visits: Map<string, Visit>;
  alarms: Map<string, Alarm>;
  radioModels: Map<string, RadioModel>;
  antennaModels: Map<string, AntennaModel>;
  parts: Map<string, Part>;
  /** Own procedures, beside those that ship with Tejado. */
  procedures: Map<string, Procedure>;
}

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
  const carriers = byId(rows.carriers);
  const network = {
    plan: rows.plan,
    sites: byId(rows.sites),
    subscribers: byId(rows.subscribers),
    radios: byId(rows.radios.map((row) => tuned(row, carriers))),
    links: byId(rows.links),
  };
  return {
    ...network,
    carriers,
    linksByNear: byNear(rows.links),
    required: requiredRates(network),
    measurements: byId(rows.measurements),
    layers: byId(rows.layers),
    areas: byId(rows.areas),
    overlays: byId(rows.overlays),
    scans: byId(rows.scans),
    outsiders: byId(rows.outsiders),
    scansBySite: bySite(rows.scans),
    photos: byId(rows.photos),
    crews: byId(rows.crews),
    visits: byId(rows.visits),
    alarms: byId(rows.alarms),
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

/** A world's rows as lists. */
export function rowsOf(world: World): PlanRows {
  const list = <T>(rows: ReadonlyMap<string, T>): T[] => [...rows.values()];
  const models = SHELVES.flatMap(([, shelf]) => [...world[shelf].keys()]);
  return {
    plan: world.plan,
    sites: list(world.sites),
    subscribers: list(world.subscribers),
    carriers: list(world.carriers),
    radios: list(world.radios).map(untuned),
    links: list(world.links),
    measurements: list(world.measurements),
    equipment: models.map((id) => rowIn(world, "equipment", id) as Equipment),
    layers: list(world.layers),
    areas: list(world.areas),
    overlays: list(world.overlays),
    scans: list(world.scans),
    outsiders: list(world.outsiders),
    photos: list(world.photos),
    crews: list(world.crews),
    visits: list(world.visits),
    alarms: list(world.alarms),
  };
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
