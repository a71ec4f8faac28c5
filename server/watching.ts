import { DAY_MS } from "#core/watch";
import { planContext } from "#engine";
import { jobUnderWay, submit, watchTitle } from "#jobs";
import { endStandInsBut, isPlayedByTheHour, pollPlan, pollStandIns, runsLive, watchSettings } from "#monitoring";
import { openStandInDoor } from "./standInDoor";
import { isLookedAt, readPlanName, watchedPlans, type Store } from "#store";

/** The first look comes once whoever started Tejado has had the machine for himself; then each hour, ms. */
const FIRST_MS = 20_000;
const EVERY_MS = 3600 * 1000;

/** Looks at every plan that is watched while Tejado runs: what devices or their stand-ins told each hour, another simulated network where it was never played. */
export function lookEachHour(store: Store, onFailure: (error: unknown) => void): void {
  const look = async () => {
    for (const planId of await watchedPlans(store.db)) {
      const settings = await watchSettings(store, planId);
      const isSimulated = settings.source === "simulated";
      const isLive = runsLive(settings);
      const isUnplayed = isSimulated && !(await isLookedAt(store.db, planId));
      if (!(settings.source === "devices" || isLive || isUnplayed)) continue;
      if (await jobUnderWay(store, planId, "watch")) continue;
      const name = (await readPlanName(store.db, planId)) ?? planId;
      const yesterday = new Date(Date.now() - DAY_MS).toISOString().slice(0, 10);
      const isPlayed = isUnplayed || (isLive && isPlayedByTheHour(planId));
      const play = isPlayed ? { linkIds: "all" as const, fromDay: isUnplayed ? null : yesterday } : null;
      await submit(store, "watch", planId, watchTitle(name), { play });
    }
  };
  setTimeout(() => {
    look().catch(onFailure);
    setInterval(() => look().catch(onFailure), EVERY_MS).unref();
  }, FIRST_MS).unref();
}

/** Devices are asked each minute, ms. */
const POLL_MS = 60_000;

/** Asks the devices of every plan that wants it, or what stands in for them, minute by minute. A round that takes longer lets the next one pass. */
export function pollEachMinute(store: Store, onFailure: (error: unknown) => void): void {
  let isBusy = false;
  let door: ReturnType<typeof openStandInDoor> | null = null;
  const pollOne = async (planId: string, live: Set<string>) => {
    const settings = await watchSettings(store, planId);
    const isLive = runsLive(settings);
    if (!isLive && !(settings.source === "devices" && settings.snmp.isOn)) return;
    const context = await planContext(store, planId);
    if (!context) return;
    if (!isLive) await pollPlan(store, planId, (await context.load()).world, settings);
    // What is played now reaches up to this minute: asking beside it would tell the same hours twice.
    else if (!(await jobUnderWay(store, planId, "watch"))) {
      live.add(planId);
      await pollStandIns(store, planId, context, settings, await (door ??= openStandInDoor(store)));
    }
  };
  const poll = async () => {
    if (isBusy) return;
    isBusy = true;
    try {
      const live = new Set<string>();
      // What goes wrong with one plan's devices is no reason to leave out another's.
      for (const planId of await watchedPlans(store.db)) await pollOne(planId, live).catch(onFailure);
      endStandInsBut(live);
    } finally {
      isBusy = false;
    }
  };
  setInterval(() => poll().catch(onFailure), POLL_MS).unref();
}
