import { DAY_MS, type WatchSettings } from "#core/watch";
import { counted } from "#core/words";
import { planContext } from "#engine";
import { foldPlan, watchSettings } from "#monitoring";
import type { JobKind } from "../tools";
import { lookAtPlan } from "./look";
import { simulateNetwork } from "./simulated";
import { tellOfAlarms } from "./tell";

export { channelRun, channelRunTitle, type RunResult } from "./run";
export { closeAlarms, dayText, linkChanges } from "./look";
export { lastLook, type Look } from "./looks";

/** What of the simulated network is to be played first: which links, and from which day on; a null day is the whole year. Null plays nothing. */
export interface WatchOrder {
  play: { linkIds: string[] | "all"; fromDay: string | null } | null;
}

/** The moment up to which a plan is watched: now, or where the simulated network's own clock stands. */
export const watchClockMs = ({ source, clockDay }: WatchSettings): number =>
  source === "simulated" && clockDay !== "" ? (Date.parse(clockDay) / DAY_MS + 1) * DAY_MS : Date.now();

/** Lays what arrived into the series, plays the simulated network where asked, and looks what strayed. Begun anew it does the same again. */
export const watch: JobKind<WatchOrder> = {
  work: async (store, { id, planId, order }, tools) => {
    const context = await planContext(store, planId);
    if (!context) throw new Error("The plan is gone.");
    const settings = await watchSettings(store, planId);
    const { world } = await context.load();
    const watched = await context.ask("watched");
    const nowMs = watchClockMs(settings);
    if (order.play && settings.source === "simulated") {
      const { linkIds, fromDay } = order.play;
      const what = {
        only: linkIds === "all" ? null : new Set(linkIds),
        fromDay: fromDay === null ? null : Math.floor(Date.parse(fromDay) / DAY_MS),
      };
      await simulateNetwork(store, planId, world, watched, settings.faults, what, nowMs, tools);
    }
    await foldPlan(store, planId, nowMs, tools.signal);
    const raised = await lookAtPlan(store, planId, world, watched, settings, `${id}-look`, nowMs, tools);
    // Those that were raised now are in the plan by now.
    const { world: after } = await (await planContext(store, planId))!.load();
    await tellOfAlarms(store, planId, after, settings);
    return { message: `${counted(watched.length, "link")} looked at, ${counted(raised.length, "new alarm")}` };
  },
};

/** What such work is called. */
export const watchTitle = (planName: string): string => `Watch of ${planName}`;
