import { beamwidthDeg } from "#core/antenna";
import { inverseGeodesic } from "#core/geodesy";
import { rainCoefficients } from "#core/propagation";
import { linkEnds, type World } from "#core/plan";
import {
  HOUR_MS,
  DAY_MS,
  endSeries,
  monthOfDay,
  PLAN_SERIES,
  WEATHER_SERIES,
  type PlannedFault,
  type WatchedLink,
} from "#core/watch";
import { normalAt, seedOf, uniformAt, type Fault, type SimulatedLink } from "#simulators";
import { putReceived, writeMonths, type Store } from "#store";
import type { JobTools } from "../tools";
import { withWatchThread } from "./session";

/** How far back a simulated network begins, months before this one; links that one thread plays at once. */
const MONTHS_BACK = 12;
const LINKS_AT_ONCE = 8;
/** The seed of every simulated network: the same plan is played alike on every machine. */
export const SEED = 20_261_127;

const hourOfDay = (day: string) => Date.parse(`${day}T12:00:00Z`) / 3_600_000;

/** A fault by date as the simulator takes it. */
function faultOf(world: World, planned: PlannedFault): Fault {
  const { linkId, fromDay, untilDay, ...rest } = planned;
  const time = { fromHour: hourOfDay(fromDay), ...(untilDay === "" ? {} : { untilHour: hourOfDay(untilDay) }) };
  if (rest.kind !== "moved") return { ...rest, ...time };
  const { a, b } = linkEnds(world, world.links.get(linkId)!);
  const end = rest.side === "a" ? a : b;
  const beamDeg = beamwidthDeg(end.antenna.azimuthCuts.V, 3);
  return { ...rest, ...time, beamwidthDeg: Number.isFinite(beamDeg) && beamDeg > 0 ? beamDeg : 360 };
}

/** What stands for a link of the plan: near its promise, but never quite at it. */
export function simulatedLink(world: World, watched: WatchedLink, faults: readonly PlannedFault[]): SimulatedLink {
  const link = world.links.get(watched.linkId)!;
  const { a, b } = linkEnds(world, link);
  const seed = seedOf(SEED, watched.linkId);
  const km = inverseGeodesic(a.place, b.place).distanceM / 1000;
  const { k } = rainCoefficients({ frequencyGHz: Math.max(1, a.radio.frequencyMHz / 1000), polarization: "V" });
  const busyMbps = (b.demand?.downMbps ?? 60) / Math.max(1, world.plan.oversubscription);
  const madeHour = Math.floor(Date.parse(world.plan.createdAt) / HOUR_MS);
  return {
    ...watched,
    seed,
    rainDbPerMmPerH: k * km,
    biasDb: Math.max(-2.5, Math.min(2.5, 1.2 * normalAt(seed, 1))),
    leafFactor: 0.8 + 0.4 * uniformAt(seed, 2),
    busyMbps,
    airtimePercent: Math.min(70, (100 * busyMbps) / Math.max(1, watched.rateMbps.b)),
    // What the plan asks for is asked for as it was made.
    growth: {
      percentAYear: Number.isFinite(madeHour) ? world.plan.growthPercent : 0,
      fromHour: Number.isFinite(madeHour) ? madeHour : 0,
    },
    supplyV: { a: watched.isSolar.a ? 24 : 48, b: watched.isSolar.b ? 24 : 48 },
    faults: faults.filter(({ linkId }) => linkId === watched.linkId).map((fault) => faultOf(world, fault)),
  };
}

/**
 * Plays the network for a year up to now, or from a day on, and writes what it told in place of whatever stood there of those links
 * and months.
 */
export async function simulateNetwork(
  store: Store,
  planId: string,
  world: World,
  watched: readonly WatchedLink[],
  faults: readonly PlannedFault[],
  { only, fromDay }: { only: ReadonlySet<string> | null; fromDay: number | null },
  nowMs: number,
  { progress, check, signal }: Pick<JobTools, "progress" | "check" | "signal">,
): Promise<void> {
  const toMonth = monthOfDay(Math.floor((nowMs - 1) / DAY_MS));
  const yearAgo = toMonth - MONTHS_BACK;
  const fromMonth = fromDay === null ? yearAgo : Math.max(yearAgo, monthOfDay(fromDay));
  const works = ({ rateMbps }: WatchedLink) => rateMbps.a > 0 && rateMbps.b > 0;
  const working = watched.filter(works);
  const played = working.filter((one) => only === null || only.has(one.linkId));
  const series = 2 * working.length;
  const [first] = watched;
  if (!first) return;
  await withWatchThread(async (thread) => {
    for (let at = 0; at < played.length; at += LINKS_AT_ONCE) {
      check();
      const links = played.slice(at, at + LINKS_AT_ONCE).map((one) => ({
        ...{ aSeries: endSeries(one.linkId, "a"), bSeries: endSeries(one.linkId, "b") },
        link: simulatedLink(world, one, faults),
      }));
      const months = await thread.year({
        ...{ seed: SEED, latDeg: Math.round(first.latDeg), fromMonth, toMonth },
        ...{ untilHour: Math.floor(nowMs / 3_600_000), links },
        shared: at === 0 ? { weather: WEATHER_SERIES, asked: PLAN_SERIES, told: series } : null,
      });
      await store.db.transaction((tx) => writeMonths(tx, planId, months));
      progress(
        (0.7 * Math.min(played.length, at + LINKS_AT_ONCE)) / played.length,
        `${Math.min(played.length, at + LINKS_AT_ONCE)} of ${played.length} links played`,
      );
    }
  }, signal);
  await putReceived(store.db, planId, { simulated: { at: new Date(nowMs).toISOString(), series } });
}
