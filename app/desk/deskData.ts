import type { LinkSummary } from "#core/outcome";
import { LIST_KINDS, worldOf, type PlanRows, type World } from "#core/plan";
import {
  fromColumns,
  shownAfter,
  type ChangeWire,
  type Columns,
  type PlanWire,
  type Shown,
  type TerrainInfo,
} from "#wire";

/** A plan as the desk holds it. */
export interface DeskData {
  /** As it is kept. */
  world: World;
  /** Of the world: what is changed here is changed on top of it. */
  revision: number;
  summaries: ReadonlyMap<string, LinkSummary>;
  /** Null while the plan is still being worked out. */
  shown: Shown | null;
  /** The revision from which on those who hear the changes are still being worked out; null where nobody is. */
  unsettled: number | null;
  terrain: TerrainInfo | null;
}

const bySummary = (columns: Columns) =>
  fromColumns<LinkSummary>(columns).map((summary) => [summary.linkId, summary] as const);

export function deskDataOf({ plan, rows, revision, terrain, shown, summaries, isSettled }: PlanWire): DeskData {
  const lists = Object.fromEntries(LIST_KINDS.map((kind) => [kind, fromColumns(rows[kind]!)]));
  const world = worldOf({ plan, ...lists } as unknown as PlanRows);
  return {
    world,
    revision,
    terrain,
    shown,
    unsettled: isSettled || shown === null ? null : revision,
    summaries: new Map(bySummary(summaries)),
  };
}

/**
 * The desk's data after a change; `world` is the kept one with the change's patches. Null where the server took the window to have
 * been shown what it was not.
 */
export function deskDataAfter(before: DeskData, change: ChangeWire, world: World): DeskData | null {
  const { revision, terrain, isSettled } = change;
  const shown = "ids" in change.shown ? shownAfter(change.shown, before.shown?.findings ?? []) : change.shown;
  if (!shown) return null;
  const summaries = new Map(before.summaries);
  for (const [id, summary] of bySummary(change.summaries)) summaries.set(id, summary);
  for (const id of summaries.keys()) if (!world.links.has(id)) summaries.delete(id);
  const unsettled = isSettled ? null : (before.unsettled ?? before.revision);
  return { world, revision, terrain, shown, unsettled, summaries };
}
