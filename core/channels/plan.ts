import { evaluate, evaluateAfter } from "../evaluate";
import type { LinkSummary, ProfileSource } from "../outcome";
import { mergePatches, setPatch, withPatches, type Patch, type World } from "../plan";
import { groupOn } from "../propose";
import { assignChannels, channelsCost } from "../spectrum";
import { channelEars, channelGroups } from "./ears";
import { NO_LIMITS } from "./limits";
import { channelProblem, unitsOf, type ChannelsAsk, type ChannelSchool } from "./question";

/** One group that moves to another channel. */
export interface ChannelMove {
  radioId: string;
  name: string;
  fromMHz: number;
  toMHz: number;
}

/** A link whose rates change. */
export interface RateChange {
  linkId: string;
  people: number;
  beforeMbps: [down: number, up: number];
  afterMbps: [down: number, up: number];
}

/** A channel plan, with what it does to everybody. */
export interface ChannelPlan {
  school: ChannelSchool;
  /** People whose rate is lost to channels, as the choice was compared: now, then, and what no choice under this school is below. */
  costNow: number;
  cost: number;
  lowerBound: number;
  groups: number;
  moves: ChannelMove[];
  patches: Patch[];
  peopleServedNow: number;
  peopleServed: number;
  /** Ranked by people and by how much of their rate comes or goes; both full answers. */
  gain: RateChange[];
  lose: RateChange[];
}

/** Radios of a unit of two are timed together in this group where they were not. */
const timingName = (world: World, id: string) =>
  world.radios.get(id)!.timingGroup ||
  `${world.sites.get(world.radios.get(id)!.siteId ?? "")?.name ?? "mast"} timed`.slice(0, 60);

/** Lays the channels of a whole plan by a school; `onBetter` is told of every better choice. */
export async function planChannels(
  world: World,
  { school, ...ask }: ChannelsAsk,
  between: ProfileSource,
  onBetter: (now: { cost: number; lowerBound: number }) => void = () => undefined,
): Promise<ChannelPlan> {
  const before = evaluate(world, between);
  const groups = channelGroups(world);
  const units = unitsOf(world, groups, school);
  const timing =
    school === "backToBack"
      ? units.flatMap((unit) =>
          unit.length < 2
            ? []
            : unit.map((id) =>
                setPatch("carriers", world.radios.get(id)!.carrierId, { timingGroup: timingName(world, unit[0]!) }),
              ),
        )
      : [];
  const timed = timing.length > 0 ? withPatches(world, timing) : world;
  const ears = channelEars(timed, groups, before.answers, between);
  const problem = channelProblem(timed, units, ears, ask);
  const { members, channelsMHz } = problem;
  const { choice, cost, lowerBound } = await assignChannels(problem.question, onBetter);
  // What is now is every group by itself, in the timing of now.
  const earsNow = timed === world ? ears : channelEars(world, groups, before.answers, between);
  const asNow = { ...ask, limits: { ...NO_LIMITS, guardMHz: ask.limits.guardMHz } };
  const now = channelProblem(world, unitsOf(world, groups, "free"), earsNow, asNow);
  const costNow = channelsCost(
    now.question,
    now.members.map(([id], r) => now.channelsMHz[r]!.indexOf(world.radios.get(id!)!.frequencyMHz)),
  );

  let planned = timed;
  let patches: Patch[] = [...timing];
  const moves: ChannelMove[] = [];
  members.forEach((unit, u) => {
    const toMHz = channelsMHz[u]![choice[u]!]!;
    for (const id of unit) {
      const { name, frequencyMHz, widthMHz } = world.radios.get(id)!;
      if (frequencyMHz === toMHz) continue;
      moves.push({ radioId: id, name, fromMHz: frequencyMHz, toMHz });
      const put = groupOn(planned, id, toMHz, widthMHz);
      patches = mergePatches(patches, put);
      planned = withPatches(planned, put);
    }
  });
  const after = patches.length > 0 ? evaluateAfter(before, patches, between) : before;
  return {
    school,
    costNow,
    cost,
    lowerBound,
    groups: groups.length,
    moves,
    patches,
    peopleServedNow: before.outcome.peopleServed,
    peopleServed: after.outcome.peopleServed,
    ...rankedChanges(after.world, before.summaries, after.summaries),
  };
}

const MOST_TOLD = 40;
/** Rates that differ by less are one: they travel rounded. */
const SAME_RATE = 0.005;

const isAlike = (x: number, y: number) => Math.abs(x - y) <= SAME_RATE * Math.max(x, y);

/** Every link whose rate changes one way or the other, weighted by its people and by how much of it comes or goes. */
function changesOf(
  world: World,
  before: ReadonlyMap<string, LinkSummary>,
  after: ReadonlyMap<string, LinkSummary>,
): { change: RateChange; weight: number }[] {
  return [...world.links.values()].flatMap((link): { change: RateChange; weight: number }[] => {
    const [was, is] = [before.get(link.id), after.get(link.id)];
    if (!was || !is || was === is) return [];
    if (isAlike(was.downMbps, is.downMbps) && isAlike(was.upMbps, is.upMbps)) return [];
    const subscriber = world.subscribers.get(world.radios.get(link.bRadioId)?.subscriberId ?? "");
    const people = subscriber?.people ?? 0;
    const share = (now: number, then: number) => (now - then) / Math.max(then, now, 1e-9);
    const weight = (people || 1) * (share(is.downMbps, was.downMbps) + share(is.upMbps, was.upMbps));
    const change = {
      linkId: link.id,
      people,
      beforeMbps: [was.downMbps, was.upMbps] as [number, number],
      afterMbps: [is.downMbps, is.upMbps] as [number, number],
    };
    return [{ change, weight }];
  });
}

/** How many links run faster, on balance of their two directions, and how many slower. */
export function ratesMoved(
  world: World,
  before: ReadonlyMap<string, LinkSummary>,
  after: ReadonlyMap<string, LinkSummary>,
): { faster: number; slower: number } {
  const weights = changesOf(world, before, after).map(({ weight }) => weight);
  return { faster: weights.filter((one) => one > 0).length, slower: weights.filter((one) => one < 0).length };
}

/** Links whose rate changes, those first whose people gain or lose most of it. */
export function rankedChanges(
  world: World,
  before: ReadonlyMap<string, LinkSummary>,
  after: ReadonlyMap<string, LinkSummary>,
): { gain: RateChange[]; lose: RateChange[] } {
  const changes = changesOf(world, before, after);
  const ranked = (some: typeof changes) =>
    some
      .sort((x, y) => Math.abs(y.weight) - Math.abs(x.weight))
      .slice(0, MOST_TOLD)
      .map(({ change }) => change);
  return {
    gain: ranked(changes.filter(({ weight }) => weight > 0)),
    lose: ranked(changes.filter(({ weight }) => weight < 0)),
  };
}
