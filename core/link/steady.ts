import { climateOf } from "../climate";
import type { LinkEnd, Plan } from "../plan";
import type { LinkAnswer, PathAnswer } from "./answer";
import { marginForAvailabilityDb, type FadingPath } from "./availability";
import { linearOf, type Tape } from "./budget";
import { noiseSteps, rateUnder } from "./noiseSteps";

/** What of an answered path rain and multipath work on, sent from its first end. */
export function fadingPathOf(
  plan: Plan,
  { a, b }: { a: LinkEnd; b: LinkEnd },
  { aAmslM, bAmslM }: Pick<PathAnswer, "aAmslM" | "bAmslM">,
  distanceM: number,
): FadingPath {
  const latDeg = (a.place.latDeg + b.place.latDeg) / 2;
  const { rainRate001MmPerH, dN1NPerKm } = climateOf(plan, latDeg);
  return {
    distanceKm: distanceM / 1000,
    frequencyGHz: a.radio.frequencyMHz / 1000,
    polarization: linearOf(a.radio.polarization),
    latDeg,
    txAmslM: aAmslM,
    rxAmslM: bAmslM,
    rainRate001MmPerH,
    dN1: dN1NPerKm,
  };
}

/**
 * Rates in Mbit/s, from the first end and back, that a link keeps for the plan's wanted availability: those of its tapes with the level
 * lowered by the fading that is reckoned with. Null where the path has no answer, or the method can promise no such availability.
 */
export function steadyMbps(
  plan: Plan,
  ends: { a: LinkEnd; b: LinkEnd },
  { path, distanceM }: LinkAnswer,
): { down: number; up: number } | null {
  if (!path) return null;
  const fading = fadingPathOf(plan, ends, path, distanceM);
  const needed = marginForAvailabilityDb(fading, plan.availabilityPercent);
  if (!needed) return null;
  // A level that falls and a noise that rises by as much come to the same.
  const faded = (tape: Tape) => rateUnder(noiseSteps(tape), tape.noiseDbm + needed.marginDb);
  return { down: faded(path.aToB), up: faded(path.bToA) };
}
