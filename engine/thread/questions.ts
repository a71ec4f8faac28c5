import { ruleBreaks } from "#core/findings";
import { jobMap, mapFrame, MAP_SAMPLES, mapPlaces, ownLines, type JobMap } from "#core/crews";
import type { LinkSummary } from "#core/outcome";
import { workOut } from "#core/evaluate";
import type { LinkAnswer } from "#core/link";
import type { Place } from "#core/geodesy";
import { rowsOf, type Link, type Patch, type World } from "#core/plan";
import { OWN_RULES, RULE_SETS, ruleSetOf } from "#core/regulation";
import { siteAround, type SiteAround } from "#core/sectors";
import { readGround, type GroundSample } from "#core/terrain";
import { channelRows, emittersHeard, hearingAt, listeningIn } from "#core/interference";
import { watchedOf, type WatchedLink } from "#core/watch";
import { learnableOf, type Learnable } from "#core/calibration";
import type { SharedGround } from "#ground";
import {
  profileToWire,
  rowsWire,
  shownOf,
  shownSince,
  summariesWire,
  type ChangeWire,
  type HeardWire,
  type PlanWire,
  type ProfileWire,
  type Shown,
} from "#wire";
import { kitText, thingsFile } from "./files";
import { pace } from "./pace";
import { reliefTile } from "./relief";
import type { PlanState } from "./state";

/** Breaks of one rule set that travel; the count is always whole. */
const MOST_BREAKS = 200;

/** A plan's rows as text on memory that all threads share, and its ground. */
export interface SharedPlan {
  rows: Uint8Array;
  ground: SharedGround;
}

/** What a window asks that has seen a revision. */
interface SinceAsked {
  from: number;
  /** From where what it has seen since is a first look; null where it has all of it. */
  unsettled: number | null;
  /** Whether it wants every link's summary. */
  all: boolean;
  /** Of the record, since `from`. */
  patches: readonly Patch[];
}

/** What is told of every answered link; other questions are looked after in between. */
async function ofEachLink<T>(
  state: PlanState,
  told: (world: World, link: Link, answer: LinkAnswer) => T | null,
): Promise<T[]> {
  const { answers } = await state.evaluate();
  const { isDue, rest } = pace();
  const all: T[] = [];
  for (const link of state.world.links.values()) {
    if (isDue()) await rest();
    const answer = answers.get(link.id);
    const one = answer && told(state.world, link, answer);
    if (one) all.push(one);
  }
  return all;
}

/** Everything that can be asked of a plan that is kept warm. A question gets the plan's state and what was asked for; its answer is plain data. */
export const QUESTIONS = {
  /**
   * A plan as a window gets it first, as the text that travels: a large one before it is worked out, any other before the ways out
   * of what is wrong are, unless they are known.
   */
  window: async (state: PlanState): Promise<string> => {
    const isSettled = state.isReviewed;
    const look = state.isQuick ? await (isSettled ? state.review() : state.evaluate()) : null;
    const { plan, ...lists } = rowsOf(state.world);
    return JSON.stringify({
      plan,
      rows: rowsWire({ plan, ...lists }),
      revision: state.revision,
      terrain: state.info,
      shown: look && remembered(state, nameOfLook(state.revision, !isSettled), shownOf(look)),
      summaries: summariesWire(look?.summaries.values() ?? []),
      isSettled,
    } satisfies PlanWire);
  },

  /**
   * What has changed since a revision, as the text that travels; null where a window is better sent the plan whole. In a large plan
   * a first look goes before those who hear the change are worked out: a window that has had it says from where it was `unsettled`.
   */
  since: async (state: PlanState, { from, unsettled, all, patches }: SinceAsked): Promise<string | null> => {
    const { revision } = state;
    const base = unsettled ?? from;
    const first = all || from === revision ? null : await state.firstLook();
    const look = first?.since === base ? first.evaluation : null;
    const worked = look ?? (await state.review());
    const ids = all ? [...worked.summaries.keys()] : look ? [...look.answered] : state.answeredSince(base);
    if (!ids) return null;
    const before = state.shown.get(nameOfLook(from, unsettled !== null));
    const shown = remembered(state, nameOfLook(revision, look !== null), shownOf(worked));
    return JSON.stringify({
      revision,
      // A change that came while this one was worked out is fetched with the next question.
      patches: patches.filter((patch) => (patch.base ?? 0) <= revision),
      terrain: state.info,
      shown: before && !all ? shownSince(shown, before) : shown,
      summaries: summariesWire(ids.flatMap((id) => worked.summaries.get(id) ?? [])),
      isSettled: look === null,
    } satisfies ChangeWire);
  },

  /** The plan's own row, and the revision at which it stands. */
  plan: ({ world, revision }: PlanState) => ({ plan: world.plan, revision }),

  /** What a window needs to know of the ground; null without any raster. */
  terrain: (state: PlanState) => state.info,

  /** How many findings each stage has; null while that takes long to work out. */
  counts: async (state: PlanState) => (state.isQuick ? { ...(await state.evaluate()).counts } : null),

  /** The ways out of one finding; null where there is no such finding. */
  remedies: async (state: PlanState, { findingId }: { findingId: string }) =>
    workOut(await state.evaluate(), findingId, state.profiles.between),

  summaries: async (state: PlanState): Promise<ReadonlyMap<string, LinkSummary>> => (await state.evaluate()).summaries,

  /** What every answered link of the plan promises. */
  watched: (state: PlanState): Promise<WatchedLink[]> => ofEachLink(state, watchedOf),

  /** What of each answered link readings can teach about, what physics alone predicts of it, and what it has to spare. */
  learnable: (state: PlanState): Promise<Learnable[]> => ofEachLink(state, learnableOf),

  /** One link's answer; null where there is no such link. */
  link: async (state: PlanState, { linkId }: { linkId: string }): Promise<LinkAnswer | null> =>
    (await state.evaluate()).answers.get(linkId) ?? null,

  /** The country about a path as a crew's map: contours of the ground, and lines of the plan's own. */
  country: (state: PlanState, { a, b }: { a: Place; b: Place }): JobMap => {
    const frame = mapFrame(a, b);
    const sample: GroundSample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
    const amslM = new Float32Array(MAP_SAMPLES ** 2);
    state.ground.read((terrain) =>
      mapPlaces(frame).forEach(({ latDeg, lonDeg }, i) => {
        readGround(terrain, latDeg, lonDeg, sample);
        amslM[i] = sample.groundAmslM;
      }),
    );
    const shown = [...state.world.overlays.values()].filter((one) => one.shown);
    return jobMap(
      frame,
      amslM,
      shown.flatMap(({ geojson }) => ownLines(geojson)),
    );
  },

  /** What the ends of some kept links hear: in a large plan that is not worked out yet, gathered for them alone. */
  heard: async (state: PlanState, { linkIds }: { linkIds: readonly string[] }): Promise<HeardWire> => {
    const { world, profiles } = state;
    const links = linkIds.flatMap((id) => world.links.get(id) ?? []);
    const known = state.isQuick ? await state.evaluate() : null;
    const listening = listeningIn(world, known?.air);
    const at = (link: Link, radioId: string) => hearingAt(listening, link, radioId, profiles.glance);
    const nearBy = new Map(links.map((link) => [link.aRadioId, link]));
    return {
      near: [...nearBy].map(([id, link]) => [id, known?.heardNear.get(id) ?? at(link, id)]),
      far: links.map((link) => [link.id, known?.heardFar.get(link.id) ?? at(link, link.bRadioId)]),
    };
  },

  /** A site as its sectors see it, each customer by the tapes of his link; null where there is no such site. */
  around: async (state: PlanState, { siteId }: { siteId: string }): Promise<SiteAround | null> => {
    const site = state.world.sites.get(siteId);
    if (!site) return null;
    return siteAround(
      state.world,
      site,
      await state.evaluate(),
      (place) => heightAt(state, place) ?? NaN,
      state.profiles.glance,
    );
  },

  /** What each sector of the plan that serves somebody hears of the other transmitters. */
  sectorsHeard: async (state: PlanState): Promise<SiteAround["heard"]> => {
    const { heardNear } = await state.evaluate();
    return [...state.world.radios.values()].flatMap(({ id, role }): SiteAround["heard"] => {
      const hearing = role === "sector" ? heardNear.get(id) : undefined;
      return hearing ? [[id, hearing.noise]] : [];
    });
  },

  channelRows: async (state: PlanState) => channelRows(state.world, (await state.evaluate()).answers),

  /** What stands against each set of rules. */
  ruleBreaks: async (state: PlanState) => {
    const { answers } = await state.evaluate();
    const { ownRules } = state.world.plan;
    return [...RULE_SETS.map(({ id }) => id), OWN_RULES].map((ruleSetId) => {
      const breaks = ruleBreaks(state.world, answers, ruleSetOf({ ruleSetId, ownRules }));
      return {
        ruleSetId,
        linkCount: new Set(breaks.map(({ linkId }) => linkId)).size,
        breakCount: breaks.length,
        breaks: breaks.slice(0, MOST_BREAKS),
      };
    });
  },

  profiles: (state: PlanState, { pairs }: { pairs: readonly [Place, Place][] }): ProfileWire[] =>
    pairs.map(([from, to]) => profileToWire(state.profiles.between(from, to))),

  /** Bearings at both ends of a path, and its length. */
  line: (state: PlanState, { from, to }: { from: Place; to: Place }) => {
    const { azimuthDeg, backAzimuthDeg, distanceM } = state.profiles.between(from, to);
    return { azimuthDeg, backAzimuthDeg, distanceM };
  },

  /** Height of the ground, m above sea; null where no raster knows it. */
  ground: (state: PlanState, place: Place): number | null => heightAt(state, place),

  /** One tile of the map's relief; null where no ground is known there. */
  relief: (state: PlanState, tile: { z: number; x: number; y: number }) =>
    state.info && state.ground.read((terrain) => reliefTile(terrain, tile)),

  /** The plan's own transmitters as a scanner at a site hears them. */
  emitters: (state: PlanState, { siteId }: { siteId: string }) =>
    emittersHeard(state.world, siteId, state.profiles.between),

  /** The outcome of a state, and how much is wrong with it. */
  side: async (state: PlanState) => {
    const { outcome, findings, summaries } = await state.evaluate();
    return {
      outcome,
      findings: findings.length,
      blocked: [...summaries.values()].filter((one) => one.state === "blocked").length,
    };
  },

  /** Things of the plan as a file: a large plan's takes long enough to be kept from the thread that serves pages. */
  thingsFile,
  /** One of the texts of the plan's kit. */
  kitText,

  /** The plan for other threads to work on. */
  shared: (state: PlanState): SharedPlan => ({ rows: state.sharedRows(), ground: state.shared }),
} satisfies Record<string, (state: PlanState, asked: never) => unknown>;

function heightAt(state: PlanState, { latDeg, lonDeg }: Place): number | null {
  const sample: GroundSample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  state.ground.read((terrain) => readGround(terrain, latDeg, lonDeg, sample));
  return Number.isFinite(sample.groundAmslM) ? sample.groundAmslM : null;
}

/** Looks whose findings are remembered: a window that has slept longer is shown all of them again. */
const MOST_LOOKS = 60;

const nameOfLook = (revision: number, isFirst: boolean) => `${revision}${isFirst ? " first" : ""}`;

/** Remembers what windows are shown by a look, so that the next one need not say it again. */
function remembered(state: PlanState, look: string, shown: Shown): Shown {
  state.shown.delete(look);
  state.shown.set(look, shown.findings);
  if (state.shown.size > MOST_LOOKS) state.shown.delete(state.shown.keys().next().value!);
  return shown;
}

export type Questions = typeof QUESTIONS;
export type QuestionName = keyof Questions;
/** What a question is asked with; null where its name says it all. */
export type Asked<N extends QuestionName> = Parameters<Questions[N]> extends [PlanState, infer A] ? A : null;
/** The same as the rest of a call's arguments. */
export type AskedWith<N extends QuestionName> = Asked<N> extends null ? [] : [Asked<N>];
export type Answer<N extends QuestionName> = Awaited<ReturnType<Questions[N]>>;
