import { randomBytes } from "node:crypto";
import { linkEnds, type World } from "#core/plan";
import { WEATHER_SERIES, type Sample, type WatchedLink, type WatchSettings } from "#core/watch";
import type { PlanContext } from "#engine";
import {
  memoryOf,
  standInModel,
  standInSettings,
  startStandIns,
  STAND_IN_COMMUNITY,
  type Memory,
  type StandInDevice,
  type StandIns,
} from "#simulators";
import type { Store } from "#store";
import { pollRound } from "./poll";
import { SEED, simulatedLink } from "./simulatedLink";

/** So many devices are stood in for on one machine, each with a port of its own; a larger network is played by the hour. */
const MOST_STAND_INS = 500;

/** The stand-ins of one plan at one revision. */
interface Standing {
  key: string;
  standIns: StandIns;
  memory: Memory;
  /** What they show where they report; nobody outside this process has it. */
  token: string;
}
const held = globalThis as { tejadoStandIns?: Map<string, Standing> };
const standing = (held.tejadoStandIns ??= new Map());
/** Plans with more devices than can be stood in for. */
const tooLarge = new Set<string>();

/** Whether a plan's live network is too large for stand-ins: it is then simulated hour by hour instead. */
export const isPlayedByTheHour = (planId: string): boolean => tooLarge.has(planId);

const worksBothWays = ({ rateMbps }: WatchedLink) => rateMbps.a > 0 && rateMbps.b > 0;
const hasTable = (world: World, radioId: string) => world.radios.get(radioId)?.role === "sector";

/** Customers' devices come in by every way in turn; what stands on masts is asked. */
const SPEAKS = ["json", "csv", "snmp"] as const;

/** The devices of a plan's links; null where they are too many. */
export function standInDevices(
  world: World,
  watched: readonly WatchedLink[],
  { faults }: Pick<WatchSettings, "faults">,
): StandInDevice[] | null {
  const devices = new Map<string, Omit<StandInDevice, "links"> & { links: StandInDevice["links"][number][] }>();
  let customers = 0;
  for (const one of watched.filter(worksBothWays)) {
    const { a, b } = linkEnds(world, world.links.get(one.linkId)!);
    const link = simulatedLink(world, one, faults);
    for (const [side, own, far] of [["a", a, b] as const, ["b", b, a] as const]) {
      const radioId = own.radio.id;
      const device = devices.get(radioId) ?? {
        ...{ radioId, hasTable: hasTable(world, radioId), links: [] },
        speaks: own.radio.role === "subscriber" ? SPEAKS[customers++ % SPEAKS.length]! : "snmp",
      };
      device.links.push({ link, side, who: far.radio.address || far.radio.name });
      devices.set(radioId, device);
    }
  }
  return devices.size > MOST_STAND_INS ? null : [...devices.values()];
}

/** Whether a plan's simulated network runs with the clock of this machine. */
export const runsLive = ({ source, clockDay }: WatchSettings): boolean => source === "simulated" && clockDay === "";

/** Ends the stand-ins of all plans but some. */
export function endStandInsBut(planIds: ReadonlySet<string>): void {
  for (const [planId, { standIns }] of standing)
    if (!planIds.has(planId)) {
      standIns.stop();
      standing.delete(planId);
    }
}

/** Whether it is a stand-in of a plan that reports. */
export const isStandInToken = (planId: string, token: string): boolean => standing.get(planId)?.token === token;

/**
 * Asks the stand-ins of a plan by SNMP, as real devices are asked, and keeps what came with the weather; null where they are too many.
 * Some report at a door by themselves, where there is one: `door` gives the address at which a plan's samples are taken.
 */
export async function pollStandIns(
  store: Store,
  planId: string,
  context: PlanContext,
  settings: WatchSettings,
  door: ((planId: string) => string) | null = null,
  nowMs = Date.now(),
): Promise<{ asked: number; answered: number } | null> {
  const key = `${context.revision} ${JSON.stringify(settings.faults)}`;
  const { world } = await context.load();
  let own = standing.get(planId);
  if (own?.key !== key) {
    own?.standIns.stop();
    standing.delete(planId);
    const watched = await context.ask("watched");
    const devices = standInDevices(world, watched, settings);
    if (!devices) {
      tooLarge.add(planId);
      return null;
    }
    tooLarge.delete(planId);
    const memory = memoryOf(SEED, Math.round(watched[0]?.latDeg ?? 0));
    const token = randomBytes(24).toString("base64url");
    own = { key, standIns: startStandIns(devices, memory, door && { address: door(planId), token }), memory, token };
    standing.set(planId, own);
  }
  const { standIns, memory } = own;
  const hour = nowMs / 3_600_000;
  // What some could not report is no reason not to ask the others.
  let failure: unknown = null;
  await standIns.tellAt(hour).catch((why: unknown) => (failure = why));
  const { windMPerS, rainMmPerH, temperatureC } = memory.weather(Math.floor(hour));
  const weather: Sample = {
    seriesId: WEATHER_SERIES,
    atMs: nowMs,
    values: { windMPerS, rainMmPerH, temperatureC },
  };
  const round = await pollRound(
    store,
    planId,
    world,
    {
      by: "stand-ins",
      at: ({ id }) => {
        const port = standIns.portOf(id);
        return port === null ? null : { address: "127.0.0.1", settings: standInSettings(port) };
      },
      modelOf: ({ id, radioModelId }) => standInModel(radioModelId, hasTable(world, id)),
      secrets: { community: STAND_IN_COMMUNITY, password: "", key: "" },
    },
    [weather],
  );
  if (failure !== null) throw failure;
  return round;
}
