import PQueue from "p-queue";
import type { Radio, World } from "#core/plan";
import {
  carriedOn,
  clientSamples,
  endSeries,
  PLAN_SERIES,
  radioSeries,
  snmpFigures,
  type Sample,
  type SnmpModel,
  type SnmpReading,
  type SnmpSettings,
  type WatchSettings,
} from "#core/watch";
import { addBatch, putReceived, readSecret, type Store } from "#store";
import { askDevice, type SnmpSecrets } from "./snmp";

/** Devices that are asked at once. */
const AT_ONCE = 200;

/** What each device answered last, by plan and radio: throughput is told from one reading to the next. */
const held = globalThis as { tejadoReadings?: Map<string, SnmpReading> };
const readings = (held.tejadoReadings ??= new Map());

/** Names of a plan's SNMP secrets. */
export const SNMP_SECRETS = { community: "snmp/community", password: "snmp/password", key: "snmp/key" } as const;

/** How the devices of a plan are asked: where each is, what its objects mean, and what opens it. */
interface Asking {
  /** As whom what came is told of. */
  by: string;
  at: (radio: Radio) => { address: string; settings: SnmpSettings } | null;
  modelOf: (radio: Radio) => SnmpModel | undefined;
  secrets: SnmpSecrets;
}

/** Asks every device of a plan that has an address once, and keeps what came as one batch. Gives how many answered. */
export async function pollPlan(
  store: Store,
  planId: string,
  world: World,
  { snmp }: WatchSettings,
): Promise<{ asked: number; answered: number }> {
  const secret = async (ref: string) => (await readSecret(store, planId, ref).catch(() => null)) ?? "";
  const models = new Map(snmp.models.map((model) => [model.radioModelId, model]));
  return pollRound(store, planId, world, {
    by: "snmp",
    at: ({ address }) => (address === "" ? null : { address, settings: snmp }),
    modelOf: ({ radioModelId }) => models.get(radioModelId),
    secrets: {
      community: await secret(SNMP_SECRETS.community),
      password: await secret(SNMP_SECRETS.password),
      key: await secret(SNMP_SECRETS.key),
    },
  });
}

/** The series that a radio's own figures belong to: its link's end where it has one link and no table of its clients, else the device. */
function seriesOfRadios(world: World, modelOf: Asking["modelOf"]): Map<string, string> {
  const ends = new Map<string, string[]>();
  const add = (radioId: string, seriesId: string) => ends.set(radioId, [...(ends.get(radioId) ?? []), seriesId]);
  for (const { id, aRadioId, bRadioId } of world.links.values()) {
    add(aRadioId, endSeries(id, "a"));
    add(bRadioId, endSeries(id, "b"));
  }
  return new Map(
    [...ends].map(([radioId, own]) => [
      radioId,
      own.length === 1 && !modelOf(world.radios.get(radioId)!)?.clients ? own[0]! : radioSeries(radioId),
    ]),
  );
}

/** Asks every device that can be asked once, and keeps what came as one batch, with what else is known of that moment. */
export async function pollRound(
  store: Store,
  planId: string,
  world: World,
  { by, at, modelOf, secrets }: Asking,
  beside: readonly Sample[] = [],
): Promise<{ asked: number; answered: number }> {
  const seriesOf = seriesOfRadios(world, modelOf);
  const queue = new PQueue({ concurrency: AT_ONCE });
  const samples: Sample[] = [];
  let [asked, answered, strangers] = [0, 0, 0];
  for (const radio of world.radios.values()) {
    const { id } = radio;
    const where = seriesOf.has(id) ? at(radio) : null;
    if (!where) continue;
    asked++;
    void queue.add(async () => {
      const answer = await askDevice(where.address, modelOf(radio), where.settings, secrets);
      if (!answer) return;
      answered++;
      const key = `${planId} ${id}`;
      const now = carriedOn(answer, readings.get(key) ?? null);
      samples.push({
        seriesId: seriesOf.get(id)!,
        atMs: now.atMs,
        values: snmpFigures(now, readings.get(key) ?? null),
      });
      readings.set(key, now);
      const ofClients = clientSamples(world, id, now);
      samples.push(...ofClients.samples);
      strangers += ofClients.strangers;
    });
  }
  await queue.onIdle();
  const nowIs = new Date();
  const told: Sample = { seriesId: PLAN_SERIES, atMs: nowIs.getTime(), values: { seriesTold: samples.length } };
  // A round in which nobody answered was asked all the same only where somebody else answers at other times: the poller itself may be cut off.
  if (samples.length > 0) await addBatch(store.db, planId, [...samples, ...beside, told]);
  await putReceived(store.db, planId, {
    [by]: { at: nowIs.toISOString(), kept: samples.length, silent: asked - answered, strangers },
  });
  return { asked, answered };
}
