import { randomUUID } from "node:crypto";
import {
  searchWaysOut,
  viewFromSite,
  viewFromSubscriber,
  type SearchAsk,
  type SearchResult,
  type ViewRow,
} from "#core/search";
import { compareBands, type BandRow } from "#core/search";
import { attachList, type AttachedList } from "#core/search";
import {
  earsNow,
  hurtsOf,
  planChannels,
  widthTable,
  type WidthRow,
  type ChannelPlan,
  type ChannelsAsk,
  type Hurt,
} from "#core/channels";
import { grown } from "#core/capacity";
import { fullSectorWays, hopWays, type HopWay } from "#core/expansion";
import { checksOf, mendsOf, type Mend, type Remedy } from "#core/findings";
import { clientAntennas, type ClientAntennaRow } from "#core/search";
import { heardTape, listeningIn, type HeardTape } from "#core/interference";
import { optimizeSectors, type OptimizeAsk } from "#core/optimize";
import { trySchools, type SchoolTried } from "#core/schools";
import {
  beamTable,
  gainTable,
  headingTable,
  tiltTable,
  type BeamRow,
  type GainRow,
  type HeadingRow,
  type TiltRow,
} from "#core/sectors";
import { customerHears, gridAround, heardInCells, newSwept, sweep, wedgeOf, withLearned } from "#core/coverage";
import type { OwnNoise } from "#core/link";
import { type LinkWatch } from "#core/watch";
import { learnedPage, type Learnable, type LearnedPage } from "#core/calibration";
import { lossesToWire } from "#wire";
import type { CellsHearAsk, CoverageAsk, ViewAsk } from "./asks";
import { coarseGlances, heightOver, type TaskGround, type Part } from "./taskGround";
import { SITE_TASKS, type SiteTaskAnswers, type SiteTaskAsk } from "./siteTasks";

/** Questions that all workers answer together are told which part is whose. */
type Shared = "fromSite" | "hurts";

/** What is asked of the pool. */
export type TaskAsk =
  | Exclude<ViewAsk, { kind: Shared }>
  | (Extract<ViewAsk, { kind: Shared }> & { part: Part })
  | { kind: "coverage"; ask: CoverageAsk }
  | { kind: "cellsHear"; ask: CellsHearAsk }
  | { kind: "search"; ask: SearchAsk }
  | { kind: "optimize"; ask: OptimizeAsk }
  | { kind: "channels"; ask: ChannelsAsk }
  | { kind: "learned"; learnable: Learnable[]; watched: LinkWatch[] }
  | SiteTaskAsk;
export interface TaskAnswers extends SiteTaskAnswers {
  fromSite: ViewRow[];
  fromSubscriber: ViewRow[];
  bands: BandRow[];
  clientAntennas: ClientAntennaRow[];
  mends: Mend[];
  hopWays: HopWay[];
  splits: Remedy[];
  attach: [AttachedList];
  tilts: TiltRow[];
  headings: HeadingRow[];
  gains: GainRow[];
  widths: WidthRow[];
  beams: BeamRow[];
  schools: SchoolTried[];
  /** As it travels. */
  coverage: Uint8Array;
  cellsHear: Float32Array;
  heardAt: [OwnNoise];
  search: SearchResult;
  /** Its points are handed over as they are found. */
  optimize: null;
  channels: ChannelPlan;
  hurts: Hurt[];
  learned: LearnedPage;
  /** None where it is too weak to be looked at. */
  heardTape: HeardTape[];
}

function required<T>(row: T | undefined, what: string): T {
  if (!row) throw new RangeError(`There is no ${what} in the plan.`);
  return row;
}

/** How each question is answered. */
export const TASKS: {
  [K in TaskAsk["kind"]]: (
    given: TaskGround,
    ask: Extract<TaskAsk, { kind: K }>,
  ) => TaskAnswers[K] | Promise<TaskAnswers[K]>;
} = {
  ...SITE_TASKS,
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
  clientAntennas: ({ world, between }, { linkId }) => clientAntennas(world, linkId, between),
  mends: ({ world, between }, { linkId }) => mendsOf(world, linkId, between),
  hopWays: ({ world, between }, { linkId }) => hopWays(world, linkId, between),
  splits: ({ world, between }, { radioId, years }) =>
    fullSectorWays(grown(world, years), required(world.radios.get(radioId), `radio "${radioId}"`).id, {
      profileBetween: between,
      checksOf,
    }),
  attach: ({ world, between }, { subscriberIds }) => [attachList(world, subscriberIds, between, randomUUID)],
  tilts: ({ world, between }, { radioId }) =>
    tiltTable(world, required(world.radios.get(radioId), `radio "${radioId}"`).id, between),
  headings: ({ world, between }, { radioId }) =>
    headingTable(world, required(world.radios.get(radioId), `radio "${radioId}"`).id, between),
  gains: ({ world, between }, { radioId }) =>
    gainTable(world, required(world.radios.get(radioId), `radio "${radioId}"`).id, between),
  widths: ({ world, between }, { radioId }) => widthTable(world, radioId, between),
  beams: ({ world, between }, { radioId }) => beamTable(world, radioId, between),
  schools: ({ world, between }, { siteId, radiusM }) =>
    trySchools(world, required(world.sites.get(siteId), `site "${siteId}"`), radiusM, between, randomUUID),
  coverage: ({ ground }, { ask }) => {
    const { middle, radiusM, cellM, wedge } = ask;
    const grid = gridAround(middle, radiusM, cellM);
    const { from, to, window } = wedgeOf(grid, wedge);
    const losses = newSwept(grid);
    sweep(grid, (look) => ground.read(look), ask, losses, from, to);
    if (ask.learned) withLearned(grid, losses, ask.learned, window);
    return lossesToWire(grid, losses, window);
  },
  cellsHear: ({ world, ground }, { ask }) => {
    const { radioId, kit, middle, radiusM, cellM, cells } = ask;
    const radio = required(world.radios.get(radioId), `radio "${radioId}"`);
    const hears = customerHears(world, radio, kit, coarseGlances(ground));
    return heardInCells(hears, gridAround(middle, radiusM, cellM), cells);
  },
  heardAt: ({ world, between }, { radioId, kit, place }) => [
    customerHears(world, required(world.radios.get(radioId), `radio "${radioId}"`), kit, between)(place),
  ],
  channels: ({ world, between, found }, { ask }) => planChannels(world, ask, between, found),
  learned: ({ world }, { learnable, watched }) => learnedPage(world, learnable, watched),
  heardTape: ({ world, between }, { linkId, direction, radioId }) => {
    const link = required(world.links.get(linkId), `link "${linkId}"`);
    const tape = heardTape(
      listeningIn(world),
      link,
      direction === "down" ? link.bRadioId : link.aRadioId,
      radioId,
      between,
    );
    return tape ? [tape] : [];
  },
  hurts: ({ world, between }, { part }) => hurtsOf(world, earsNow(world, between, part)),
  optimize: ({ world, between, progress, found }, { ask }) => {
    for (const { point, ...now } of optimizeSectors(world, ask, between, randomUUID)) {
      progress(now);
      if (point) found(point);
    }
    return null;
  },
  search: ({ world, ground, between, progress }, { ask }) => {
    const work = searchWaysOut(world, ask, heightOver(ground), between, randomUUID);
    for (;;) {
      const step = work.next();
      if (step.done) return step.value;
      progress(step.value);
    }
  },
};
