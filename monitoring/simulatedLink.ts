import { beamwidthDeg } from "#core/antenna";
import { inverseGeodesic } from "#core/geodesy";
import { rainCoefficients } from "#core/propagation";
import { linkEnds, type World } from "#core/plan";
import { HOUR_MS, type PlannedFault, type WatchedLink } from "#core/watch";
import { normalAt, seedOf, uniformAt, type Fault, type SimulatedLink } from "#simulators";

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
