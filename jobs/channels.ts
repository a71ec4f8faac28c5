import type { ChannelPlan, ChannelSchool, ChannelsAsk } from "#core/channels";
import { CHANNEL_SCHOOL_WORDS } from "#core/channels";
import type { Patch, World } from "#core/plan";
import { figure } from "#core/words";
import { planContext } from "#engine";
import { askPool } from "#pool";
import type { JobKind } from "./tools";

/** Channel plans by several schools, side by side. */
export interface ChannelsOrder {
  patches: Patch[];
  ask: Omit<ChannelsAsk, "school"> & { schools: ChannelSchool[] };
}

/** Lays the channels of a plan by each school that is asked for; what comes of it is kept with the plan. */
export const channels: JobKind<ChannelsOrder> = {
  work: async (store, { id, planId, order }, { signal, progress }) => {
    const context = await planContext(store, planId);
    if (!context) throw new Error("The plan is gone.");
    const { schools, ...ask } = order.ask;
    const plans: ChannelPlan[] = [];
    for (const [i, school] of schools.entries()) {
      const { name } = CHANNEL_SCHOOL_WORDS[school];
      const tell = (message: string) => progress(i / schools.length, `${name}: ${message}`);
      tell("what everybody hears");
      const { answer } = await askPool(
        context,
        order.patches,
        { kind: "channels", ask: { ...ask, school } },
        {
          signal,
          found: (better) => {
            const { cost, lowerBound } = better as { cost: number; lowerBound: number };
            tell(`noise costs ${figure(cost)} people; no plan costs less than ${figure(lowerBound)}`);
          },
        },
      );
      plans.push(answer);
    }
    return {
      message: plans
        .map(({ school, moves }) => `${CHANNEL_SCHOOL_WORDS[school].name}: ${moves.length} to move`)
        .join("; "),
      resultUrl: `/plans/${planId}/searches/${id}`,
      result: plans,
    };
  },
};

/** What such work is called. */
export const channelsTitle = (world: World): string => `Channels of ${world.plan.name}`;
