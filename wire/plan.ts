import type { Hearing } from "#core/interference";
import type { LinkSummary } from "#core/outcome";
import { LIST_KINDS, type Patch, type Plan, type PlanRows } from "#core/plan";
import type { Shown, ShownSince } from "./shown";
import { toColumns, type Columns } from "./columns";

export interface TerrainInfo {
  /** What the relief is drawn from. */
  reliefVersion: string;
  /** All that profiles cross. */
  version: string;
  extent: [westDeg: number, southDeg: number, eastDeg: number, northDeg: number];
}

/** A plan as a window gets it first. */
export interface PlanWire {
  plan: Plan;
  rows: Record<string, Columns>;
  revision: number;
  terrain: TerrainInfo | null;
  /** Null while the plan is still being worked out. */
  shown: Shown | null;
  summaries: Columns;
  /** False while the ways out of what is wrong are still being worked out: the window asks once more. */
  isSettled: boolean;
}

/** What has changed of a plan since a window got it. */
export interface ChangeWire {
  revision: number;
  patches: Patch[];
  terrain: TerrainInfo | null;
  /** By what the window was shown before, or whole. */
  shown: ShownSince | Shown;
  /** Of the links that were answered anew. */
  summaries: Columns;
  /** False while those who hear the change are still being worked out: the window asks once more. */
  isSettled: boolean;
}

/** What the ends of some links hear: near ends by their radio, far ends by their link. */
export interface HeardWire {
  near: [radioId: string, Hearing][];
  far: [linkId: string, Hearing][];
}

/** Decimals of a summary's figures: a hundredth of a decibel says more than anybody reads. */
const DECIMALS = 100;
const rounded = (value: number | null) => value && Math.round(value * DECIMALS) / DECIMALS;

export function summariesWire(summaries: Iterable<LinkSummary>): Columns {
  return toColumns(
    [...summaries].map((summary) => ({
      ...summary,
      distanceM: rounded(summary.distanceM),
      marginLeftDb: rounded(summary.marginLeftDb),
      downMbps: rounded(summary.downMbps),
      upMbps: rounded(summary.upMbps),
      levelADbm: rounded(summary.levelADbm),
      levelBDbm: rounded(summary.levelBDbm),
      steadyDownMbps: rounded(summary.steadyDownMbps),
      steadyUpMbps: rounded(summary.steadyUpMbps),
    })),
  );
}

export const rowsWire = (rows: PlanRows): Record<string, Columns> =>
  Object.fromEntries(LIST_KINDS.map((kind) => [kind, toColumns(rows[kind])]));
