import { evaluate, evaluateAfter } from "../evaluate";
import type { ProfileSource } from "../outcome";
import { mergePatches, setPatch, withPatches, type Patch, type World } from "../plan";
import { groupOn } from "../propose";
import { assignChannels, channelsCost } from "../spectrum";
import { channelEars, channelGroups } from "./ears";
import { NO_LIMITS } from "./limits";
import { channelProblem, unitsOf, type ChannelsAsk, type ChannelSchool } from "./question";
import { rateChanges, type RateChange } from "./rates";

/** One group that moves to another channel. */
export interface ChannelMove {
  radioId: string;
  name: string;
  fromMHz: number;
  toMHz: number;
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
  const now = channelProblem(world, unitsOf(world, groups, "free"), earsNow, asNow, true);
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
  const { gain, lose } = rateChanges(after.world, before.summaries, after.summaries);
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
    gain,
    lose,
  };
}
