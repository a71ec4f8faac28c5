import type { AntennaModel } from "../antenna";
import type { RadioModel } from "../radio";
import { ruleSetOf } from "../regulation";
import type {
  Area,
  Equipment,
  Layer,
  Link,
  Measurement,
  Overlay,
  Photo,
  Plan,
  Radio,
  RowKind,
  RowKinds,
  Scan,
  Site,
  Subscriber,
} from "./schema";

/** Everything of one plan as rows; the bytes of rasters and photographs lie apart, under the ids of theirs. */
export interface PlanRows {
  plan: Plan;
  sites: Site[];
  subscribers: Subscriber[];
  radios: Radio[];
  links: Link[];
  measurements: Measurement[];
  equipment: Equipment[];
  layers: Layer[];
  areas: Area[];
  overlays: Overlay[];
  scans: Scan[];
  photos: Photo[];
}

/** A plan's rows with nothing in them yet. */
export function emptyRows(plan: Plan): PlanRows {
  return {
    plan,
    sites: [],
    subscribers: [],
    radios: [],
    links: [],
    measurements: [],
    equipment: [],
    layers: [],
    areas: [],
    overlays: [],
    scans: [],
    photos: [],
  };
}

/** A plan with its things found by id in one step. */
export interface World {
  plan: Plan;
  sites: Map<string, Site>;
  subscribers: Map<string, Subscriber>;
  radios: Map<string, Radio>;
  links: Map<string, Link>;
  measurements: Map<string, Measurement>;
  layers: Map<string, Layer>;
  areas: Map<string, Area>;
  overlays: Map<string, Overlay>;
  scans: Map<string, Scan>;
  photos: Map<string, Photo>;
  radioModels: Map<string, RadioModel>;
  antennaModels: Map<string, AntennaModel>;
}

const byId = <T extends { id: string }>(rows: T[]) => new Map(rows.map((row) => [row.id, row]));

export function worldOf(rows: PlanRows): World {
  ruleSetOf(rows.plan);
  const radioModels = new Map<string, RadioModel>();
  const antennaModels = new Map<string, AntennaModel>();
  for (const item of rows.equipment) {
    if (item.kind === "radio") radioModels.set(item.id, item.body);
    else antennaModels.set(item.id, item.body);
  }
  return {
    plan: rows.plan,
    sites: byId(rows.sites),
    subscribers: byId(rows.subscribers),
    radios: byId(rows.radios),
    links: byId(rows.links),
    measurements: byId(rows.measurements),
    layers: byId(rows.layers),
    areas: byId(rows.areas),
    overlays: byId(rows.overlays),
    scans: byId(rows.scans),
    photos: byId(rows.photos),
    radioModels,
    antennaModels,
  };
}

/** One row put, changed or removed; a null row removes it. */
export type Edit = { [K in RowKind]: { kind: K; id: string; row: RowKinds[K] | null } }[RowKind];

/** The world as it would be with `edits` applied, in order; the given one is left alone. */
export function withEdits(world: World, edits: readonly Edit[]): World {
  if (edits.length === 0) return world;
  const next: World = {
    ...world,
    radioModels: new Map(world.radioModels),
    antennaModels: new Map(world.antennaModels),
  };
  const copied = new Set<string>();
  for (const edit of edits) {
    if (edit.kind === "plans") {
      if (edit.row) next.plan = edit.row;
    } else if (edit.kind === "equipment") {
      if (edit.row?.kind === "radio") next.radioModels.set(edit.id, edit.row.body);
      else if (edit.row) next.antennaModels.set(edit.id, edit.row.body);
      else if (!next.radioModels.delete(edit.id)) next.antennaModels.delete(edit.id);
    } else {
      if (!copied.has(edit.kind)) {
        copied.add(edit.kind);
        Object.assign(next, { [edit.kind]: new Map<string, unknown>(world[edit.kind]) });
      }
      const rows = next[edit.kind] as Map<string, unknown>;
      if (edit.row) rows.set(edit.id, edit.row);
      else rows.delete(edit.id);
    }
  }
  return next;
}

/** The later edit of a row replaces the earlier, so a long drag stays one edit. */
export function mergeEdits(earlier: readonly Edit[], later: readonly Edit[]): Edit[] {
  const merged = new Map(earlier.map((edit) => [`${edit.kind} ${edit.id}`, edit]));
  for (const edit of later) merged.set(`${edit.kind} ${edit.id}`, edit);
  return [...merged.values()];
}
