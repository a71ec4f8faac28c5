import { randomUUID } from "node:crypto";
import type { World } from "#core/plan";
import {
  compareBands,
  searchWaysOut,
  viewFromSite,
  viewFromSubscriber,
  type BandRow,
  type SearchAsk,
  type SearchProgress,
  type SearchResult,
  type ViewRow,
} from "#core/search";
import type { ProfileSource } from "#core/outcome";
import { trySchools, type SchoolTried } from "#core/schools";
import { headingTable, tiltTable, type HeadingRow, type TiltRow } from "#core/sectors";
import { gridAround, newLosses, readGrid, sweep, wedgeOf, type SweepAsk } from "#core/coverage";
import type { Place } from "#core/geodesy";
import { profileScratch, readGround, sampleProfile, type GroundSample } from "#core/terrain";
import type { Ground } from "#ground";
import { lossesToWire } from "#wire";

/** One part of a question that several workers answer together. */
export interface Part {
  index: number;
  of: number;
}

/** One part of a coverage: the losses of its cells from one antenna. */
export interface CoverageAsk extends SweepAsk {
  middle: Place;
  radiusM: number;
  cellM: number;
  wedge: number;
}

/** What is asked of the pool. */
export type TaskAsk =
  | { kind: "fromSite"; siteId: string; of: "subscribers" | "sites"; part: Part }
  | { kind: "fromSubscriber"; subscriberId: string }
  | { kind: "bands"; linkId: string; demandMbps: number }
  | { kind: "tilts" | "headings"; radioId: string }
  | { kind: "schools"; siteId: string; radiusM: number }
  | { kind: "coverage"; ask: CoverageAsk }
  | { kind: "search"; ask: SearchAsk };
export interface TaskAnswers {
  fromSite: ViewRow[];
  fromSubscriber: ViewRow[];
  bands: BandRow[];
  tilts: TiltRow[];
  headings: HeadingRow[];
  schools: SchoolTried[];
  /** As it travels. */
  coverage: Uint8Array;
  search: SearchResult;
}

/** What a task works on. */
export interface Bench {
  world: World;
  ground: Ground;
  between: ProfileSource;
  progress: (now: SearchProgress) => void;
}

/** Profiles for one look after another: each is written over the last. */
export function glances(ground: Ground): ProfileSource {
  const scratch = profileScratch();
  return (from, to) => ground.read((terrain) => sampleProfile(terrain, from, to, undefined, scratch));
}

function required<T>(row: T | undefined, what: string): T {
  if (!row) throw new RangeError(`There is no ${what} in the plan.`);
  return row;
}

/** How each question is answered. */
export const TASKS: {
  [K in TaskAsk["kind"]]: (bench: Bench, ask: Extract<TaskAsk, { kind: K }>) => TaskAnswers[K];
} = {
  fromSite: ({ world, between }, { siteId, of, part }) =>
    viewFromSite(world, required(world.sites.get(siteId), `site "${siteId}"`), of, between, randomUUID, part),
  fromSubscriber: ({ world, between }, { subscriberId }) =>
    viewFromSubscriber(
      world,
      required(world.subscribers.get(subscriberId), `subscriber "${subscriberId}"`),
      between,
      randomUUID,
    ),
  bands: ({ world, between }, { linkId, demandMbps }) =>
    compareBands(world, required(world.links.get(linkId), `link "${linkId}"`), demandMbps, between, randomUUID),
  tilts: ({ world, between }, { radioId }) =>
    tiltTable(world, required(world.radios.get(radioId), `radio "${radioId}"`).id, between),
  headings: ({ world, between }, { radioId }) =>
    headingTable(world, required(world.radios.get(radioId), `radio "${radioId}"`).id, between),
  schools: ({ world, between }, { siteId, radiusM }) =>
    trySchools(world, required(world.sites.get(siteId), `site "${siteId}"`), radiusM, between, randomUUID),
  coverage: ({ ground }, { ask }) => {
    const { middle, radiusM, cellM, wedge } = ask;
    const grid = gridAround(middle, radiusM, cellM);
    const { from, to, window } = wedgeOf(grid, wedge);
    const read = ground.read((terrain) => readGrid(terrain, grid, window));
    const losses = newLosses(grid);
    sweep(grid, read, ask, losses, from, to);
    return lossesToWire(grid, losses, window);
  },
  search: ({ world, ground, between, progress }, { ask }) => {
    const sample: GroundSample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
    const heightAt = ({ latDeg, lonDeg }: Place) => {
      ground.read((terrain) => readGround(terrain, latDeg, lonDeg, sample));
      return sample.groundAmslM;
    };
    const work = searchWaysOut(world, ask, heightAt, between, randomUUID);
    for (;;) {
      const step = work.next();
      if (step.done) return step.value;
      progress(step.value);
    }
  },
};
