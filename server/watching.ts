import { DAY_MS } from "#core/watch";
import { planContext } from "#engine";
import { jobUnderWay, pollPlan, submit, watchSettings, watchTitle } from "#jobs";
import { readPlanName, readWatch, watchedPlans, type Store } from "#store";

/** The first look comes once whoever started Tejado has had the machine for himself; then each hour, ms. */
const FIRST_MS = 20_000;
const EVERY_MS = 3600 * 1000;

/** Looks at every plan that is watched while Tejado runs: what real devices sent and what a live simulated network told each hour, another one where it was never played. */
export function lookEachHour(store: Store, onFailure: (error: unknown) => void): void {
  const look = async () => {
    for (const planId of await watchedPlans(store.db)) {
      const { source, clockDay } = await watchSettings(store, planId);
      const { look: known } = await readWatch(store.db, planId);
      const isLive = source === "simulated" && clockDay === "";
      const isDue = source === "devices" || isLive || (source === "simulated" && known === null);
      if (!isDue || (await jobUnderWay(store, planId, "watch"))) continue;
      const name = (await readPlanName(store.db, planId)) ?? planId;
      const yesterday = new Date(Date.now() - DAY_MS).toISOString().slice(0, 10);
      const fromDay = isLive && known !== null ? yesterday : null;
      const play = source === "simulated" ? { linkIds: "all" as const, fromDay } : null;
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

/** Asks the devices of every plan that wants it, minute by minute. A round that takes longer lets the next one pass. */
export function pollEachMinute(store: Store, onFailure: (error: unknown) => void): void {
  let isBusy = false;
  const poll = async () => {
    if (isBusy) return;
    isBusy = true;
    try {
      for (const planId of await watchedPlans(store.db)) {
        const settings = await watchSettings(store, planId);
        if (settings.source !== "devices" || !settings.snmp.isOn) continue;
        const context = await planContext(store, planId);
        if (context) await pollPlan(store, planId, (await context.load()).world, settings);
      }
    } finally {
      isBusy = false;
    }
  };
  setInterval(() => poll().catch(onFailure), POLL_MS).unref();
}
