import { randomBytes } from "node:crypto";
import type { World } from "#core/plan";
import { counted } from "#core/words";
import { DAY_MS, plannedFaultSchema, snmpSettingsSchema, watchSettingsSchema, type WatchSettings } from "#core/watch";
import { closeAlarms, dayText, submit, watchClockMs, watchTitle, type JobView, type WatchOrder } from "#jobs";
import { SNMP_SECRETS, watchSettings, samplesTokenHash, takeSamples } from "#monitoring";
import { readSamples, SamplesError } from "#formats/samples";
import { dropSeries, isLookedAt, putSecret, putToken, putWatchSettings, type Store } from "#store";
import { z } from "zod";

/** Of a file of samples that is put in by hand: as many as are taken at once, with every figure told. */
const MOST_CHARACTERS = 12_000_000;
const secret = z.string().min(1).max(200).optional();
export const watchAskSchema = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("look") }),
  z.object({ intent: z.literal("source"), source: watchSettingsSchema.shape.source.unwrap() }),
  z.object({
    intent: z.literal("pass"),
    days: z.number().int().min(1, "must be 1 or more").max(366, "must be 366 or less"),
  }),
  z.object({ intent: z.literal("live") }),
  z.object({ intent: z.literal("fault"), fault: plannedFaultSchema }),
  z.object({ intent: z.literal("mended"), index: z.number().int().min(0) }),
  z.object({ intent: z.literal("token"), isOn: z.boolean() }),
  z.object({
    intent: z.literal("samples"),
    text: z.string().max(MOST_CHARACTERS, `is longer than ${MOST_CHARACTERS} letters`),
    isCsv: z.boolean(),
  }),
  z.object({
    intent: z.literal("snmp"),
    snmp: snmpSettingsSchema,
    /** Left out where it stays as it is. */
    community: secret,
    password: secret,
    key: secret,
  }),
  z.object({
    intent: z.literal("settings"),
    set: watchSettingsSchema.pick({ quietHours: true, maintenance: true, emails: true, webhook: true }),
  }),
]);
export type WatchAsk = z.infer<typeof watchAskSchema>;

export interface WatchAnswer {
  ok: boolean;
  message: string;
  job?: JobView;
  /** Shown once: only its hash is kept. */
  token?: string;
}

/** Does what is asked of a plan's watch. */
export async function actOnWatch(
  store: Store,
  world: World,
  ask: WatchAsk,
): Promise<WatchAnswer & { status?: number }> {
  const planId = world.plan.id;
  const settings = await watchSettings(store, planId);
  const keep = (set: Partial<WatchSettings>) => putWatchSettings(store.db, planId, { ...settings, ...set });
  const begin = async (play: WatchOrder["play"]) => ({
    ok: true,
    message: "",
    job: await submit(store, "watch", planId, watchTitle(world.plan.name), { play }),
  });
  const clock = () => dayText(Math.floor((watchClockMs(settings) - 1) / DAY_MS));
  switch (ask.intent) {
    case "look": {
      const isUnplayed = settings.source === "simulated" && !(await isLookedAt(store.db, planId));
      return begin(isUnplayed ? { linkIds: "all", fromDay: null } : null);
    }
    case "source": {
      if (ask.source === settings.source) return { ok: true, message: "It is so already." };
      // What was played and what was measured never stand in one series.
      await store.db.transaction((tx) => dropSeries(tx, planId));
      await closeAlarms(store, world, "the figures it came from were dropped");
      const clockDay = ask.source === "simulated" ? dayText(Math.floor(Date.now() / DAY_MS) - 1) : "";
      await keep({ source: ask.source, clockDay, faults: [] });
      if (ask.source !== "devices") await putToken(store.db, planId, null);
      return ask.source === "simulated" ? begin({ linkIds: "all", fromDay: null }) : { ok: true, message: "" };
    }
    case "pass": {
      if (settings.source !== "simulated") return notSimulated;
      const before = clock();
      await keep({ clockDay: dayText(Math.floor(watchClockMs(settings) / DAY_MS) + ask.days - 1) });
      return begin({ linkIds: "all", fromDay: before });
    }
    case "live": {
      if (settings.source !== "simulated") return notSimulated;
      const before = clock();
      await keep({ clockDay: "" });
      return begin({ linkIds: "all", fromDay: before });
    }
    case "fault": {
      if (settings.source !== "simulated") return notSimulated;
      const { fault } = ask;
      if (!world.links.has(fault.linkId))
        return { ok: false, status: 404, message: `There is no link "${fault.linkId}".` };
      await keep({ faults: [...settings.faults, fault] });
      return begin({ linkIds: [fault.linkId], fromDay: fault.fromDay });
    }
    case "mended": {
      const fault = settings.faults[ask.index];
      if (!fault) return { ok: false, status: 404, message: "This is not on the list any more." };
      // It goes from the clock's next day on: what it did stays in the series.
      const untilDay = clock();
      await keep({ faults: settings.faults.map((one) => (one === fault ? { ...one, untilDay } : one)) });
      return begin({ linkIds: [fault.linkId], fromDay: untilDay });
    }
    case "token": {
      if (!ask.isOn) {
        await putToken(store.db, planId, null);
        return { ok: true, message: "The token is taken back: nobody can send with it any more." };
      }
      if (settings.source !== "devices")
        return {
          ok: false,
          status: 409,
          message: "Choose real devices first: nothing is taken while the network is simulated.",
        };
      const token = randomBytes(24).toString("base64url");
      await putToken(store.db, planId, samplesTokenHash(token));
      return { ok: true, message: "", token };
    }
    case "samples":
      if (settings.source !== "devices")
        return { ok: false, status: 409, message: "Nothing is taken while the network is simulated." };
      try {
        const samples = await readSamples(new TextEncoder().encode(ask.text), ask.isCsv);
        const { kept } = await takeSamples(store, planId, samples, "from a file");
        return { ok: true, message: `${counted(kept, "sample")} kept; what was left out, if anything, stands below.` };
      } catch (error) {
        if (error instanceof SamplesError)
          return { ok: false, status: 400, message: `Nothing was kept: ${error.told}` };
        throw error;
      }
    case "snmp": {
      const { snmp, community, password, key } = ask;
      const given = { community, password, key };
      for (const [name, text] of Object.entries(given) as [keyof typeof given, string | undefined][])
        if (text !== undefined) await putSecret(store, planId, SNMP_SECRETS[name], text);
      await keep({ snmp });
      return { ok: true, message: "Kept." };
    }
    case "settings":
      await keep(ask.set);
      return { ok: true, message: "Kept." };
  }
}
const notSimulated = { ok: false, status: 409, message: "The network is not simulated." };
