import { setTimeout as pause } from "node:timers/promises";
import { backhaulOf } from "#core/capacity";
import { runChanges, runGroups, type GroupReport, type RunGroup, type RunLine, type RunMove } from "#core/channels";
import type { LinkSummary } from "#core/outcome";
import type { World } from "#core/plan";
import { counted } from "#core/words";
import { planContext } from "#engine";
import { liveNetwork, seedOf, uniformAt, type LiveFault } from "#simulators";
import type { JobKind } from "../tools";

/** Moves to be rehearsed on the simulated live network, with or without faults thrown at it. */
interface RunOrder {
  moves: RunMove[];
  withFaults: boolean;
}
export interface RunResult {
  reports: GroupReport[];
  lines: (RunLine & { atS: number })[];
  /** Radios that hear their access point no more two hours later. */
  lost: string[];
  tookS: number;
}

/** A simulated minute takes so long, so that somebody can look on and stop it, ms; and what is left to settle after it, s. */
const MINUTE_MS = 60;
const SETTLE_S = 7200;
const MOST_LINES = 2000;

/** Up to four faults on radios of the run, within its first quarter of an hour. */
function faultsOf(groups: readonly RunGroup[], seed: number): LiveFault[] {
  const radios = groups.flatMap(({ leaderId, followerIds }) => [leaderId, ...followerIds]);
  const kinds = ["restart", "powerCut", "radar", "deaf"] as const;
  return Array.from({ length: 1 + Math.floor(3 * uniformAt(seed, 1)) }, (_, i) => ({
    radioId: radios[Math.floor(uniformAt(seed, 10 + i) * radios.length)]!,
    kind: kinds[Math.floor(uniformAt(seed, 20 + i) * kinds.length)]!,
    atS: Math.floor(600 * uniformAt(seed, 30 + i)),
    lastsS: Math.floor(120 + 900 * uniformAt(seed, 40 + i)),
  }));
}

/** What each link's radios could lose, the weaker way, until it breaks, dB; those that have no answer, or lack some already, are left out. */
function marginsOf(world: World, summaries: ReadonlyMap<string, LinkSummary>): Map<string, number> {
  return new Map(
    [...world.links.values()].flatMap(({ id, aRadioId, bRadioId }): [string, number][] => {
      const marginDb = summaries.get(id)?.marginLeftDb ?? null;
      if (marginDb === null || marginDb <= 0) return [];
      // Whichever of a bridge's ends leads, the other follows.
      return [
        [bRadioId, marginDb],
        [aRadioId, marginDb],
      ];
    }),
  );
}

/** Rehearses a change of channels and powers. Nothing of the plan is changed by it; stopped, everyone goes back. */
export const channelRun: JobKind<RunOrder> = {
  work: async (store, { id, planId, order }, { progress, signal }) => {
    const context = await planContext(store, planId);
    if (!context) throw new Error("The plan is gone.");
    const { world } = await context.load();
    const summaries = await context.ask("summaries");
    const groups = runGroups(world, order.moves, backhaulOf(world, summaries));
    const seed = seedOf(0, id);
    const live = liveNetwork(groups, {
      seed,
      faults: order.withFaults ? faultsOf(groups, seed) : [],
      lostShare: order.withFaults ? 0.02 : 0,
      marginDb: marginsOf(world, summaries),
    });
    const lines: RunResult["lines"] = [];
    const adapter = {
      ...live.adapter,
      wait: async (seconds: number) => {
        await pause((seconds / 60) * MINUTE_MS);
        await live.adapter.wait(seconds);
      },
    };
    let begun = 0;
    const reports = await runChanges(groups, adapter, {
      say: (line) => {
        if (lines.at(-1)?.group !== line.group) begun++;
        if (lines.length < MOST_LINES) lines.push({ ...line, atS: live.nowS() });
        progress((begun - 1) / groups.length, `${line.group}: ${line.text}`);
      },
      isStopped: () => signal.aborted,
    });
    const tookS = live.nowS();
    live.settle(SETTLE_S);
    const done = reports.filter(({ state }) => state === "done").length;
    return {
      message: `${done} of ${counted(reports.length, "group")} changed, ${counted(live.lost().length, "device")} lost`,
      resultUrl: `/plans/${planId}/searches/${id}`,
      result: { reports, lines, lost: live.lost(), tookS } satisfies RunResult,
    };
  },
};

export const channelRunTitle = (world: World): string => `Rehearsal on ${world.plan.name}`;
