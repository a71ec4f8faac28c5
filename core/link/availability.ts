import { multipathFadePercent, rainAttenuationDb, type LinearPolarization } from "../propagation";

/** What of a path rain and multipath fading work on. */
export interface FadingPath {
  distanceKm: number;
  frequencyGHz: number;
  polarization: LinearPolarization;
  latDeg: number;
  txAmslM: number;
  rxAmslM: number;
  rainRate001MmPerH: number;
  /** Point refractivity gradient not exceeded for 1 % of the year, N-units/km. */
  dN1?: number;
}

/** How a figure that is only a bound is to be read: the true one is at most, or at least, what is told. */
export type Bound = "atMost" | "atLeast" | null;

/** Shares of time, in per cent, in which a margin is not enough. */
interface Availability {
  /** How the rain shares read; the availabilities read the other way round. */
  rainBound: Bound;
  availabilityBound: Bound;
  /** Of an average year. */
  rainPercent: number;
  multipathPercent: number;
  availabilityPercent: number;
  /** Of the worst month. */
  worstMonthRainPercent: number;
  worstMonthMultipathPercent: number;
  worstMonthAvailabilityPercent: number;
}

/** Ends of the time percentages for which P.530 gives rain attenuation. */
const RAREST_RAIN_PERCENT = 0.001;
const COMMONEST_RAIN_PERCENT = 1;
/** Band of the rain method, GHz; below it rain takes nothing that counts. */
const RAIN_FROM_GHZ = 1;
const RAIN_TO_GHZ = 100;
/** Halvings of an interval: to a millionth of a decibel, or of a per cent's logarithm. */
const HALVINGS = 48;

const rainCounts = ({ frequencyGHz, rainRate001MmPerH }: FadingPath) =>
  frequencyGHz >= RAIN_FROM_GHZ && rainRate001MmPerH > 0;

/**
 * Percentage of an average year in which rain takes more than `marginDb`: the attenuation of P.530-17 §2.4.1 turned round.
 * The method ends at 0.001 and 1 %; a margin beyond either gives that end.
 */
export function rainOutagePercent(path: FadingPath, marginDb: number): number {
  if (!rainCounts(path)) return 0;
  const taken = (percentOfTime: number) =>
    rainAttenuationDb({ ...path, frequencyGHz: Math.min(RAIN_TO_GHZ, path.frequencyGHz), percentOfTime });
  if (taken(RAREST_RAIN_PERCENT) <= marginDb) return RAREST_RAIN_PERCENT;
  if (taken(COMMONEST_RAIN_PERCENT) >= marginDb) return COMMONEST_RAIN_PERCENT;
  let [low, high] = [Math.log(RAREST_RAIN_PERCENT), Math.log(COMMONEST_RAIN_PERCENT)];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2;
    if (taken(Math.exp(middle)) > marginDb) low = middle;
    else high = middle;
  }
  return Math.exp(high);
}

/**
 * Share of an average year from a share of its worst month, for multipath: 10^(−ΔG/10), ΔG by latitude, length and
 * inclination, at most 10.8 dB. Source: ITU-R P.530-17 §2.3.4.
 */
export function multipathAnnualShare({ latDeg, distanceKm, txAmslM, rxAmslM }: FadingPath): number {
  const cosine = Math.abs(Math.cos((2 * latDeg * Math.PI) / 180)) ** 0.7;
  const latitude = Math.abs(latDeg) <= 45 ? 1.1 + cosine : 1.1 - cosine;
  const inclinationMrad = Math.abs(rxAmslM - txAmslM) / distanceKm;
  const gainDb =
    10.5 - 5.6 * Math.log10(latitude) - 2.7 * Math.log10(distanceKm) + 1.7 * Math.log10(1 + inclinationMrad);
  return 10 ** (-Math.min(10.8, gainDb) / 10);
}

/** Share of the worst month from a share of the year, for rain, both in per cent: p = 0.30·p_w^1.15. Source: ITU-R P.841. */
export function rainWorstMonthPercent(yearPercent: number): number {
  return Math.min(100, (yearPercent / 0.3) ** (1 / 1.15));
}

/**
 * How much of the year, and of its worst month, a fade margin holds against rain and multipath, taken as never at once.
 * `marginDb` ≥ 0 is the margin in fair weather. Rain is not told apart below 0.001 nor above 1 % of the year: figures that
 * stand at either end carry their bound. Sources: ITU-R P.530-17 §2.3.2, §2.3.4, §2.4.1; P.841.
 */
export function availabilityOf(path: FadingPath, marginDb: number): Availability {
  const { distanceKm, frequencyGHz, txAmslM, rxAmslM, dN1 } = path;
  if (marginDb < 0)
    return {
      rainBound: null,
      availabilityBound: null,
      rainPercent: 0,
      multipathPercent: 0,
      availabilityPercent: 0,
      worstMonthRainPercent: 0,
      worstMonthMultipathPercent: 0,
      worstMonthAvailabilityPercent: 0,
    };
  const rainPercent = rainOutagePercent(path, marginDb);
  const rainBound: Bound = !rainCounts(path)
    ? null
    : rainPercent <= RAREST_RAIN_PERCENT
      ? "atMost"
      : rainPercent >= COMMONEST_RAIN_PERCENT
        ? "atLeast"
        : null;
  const worstMonthMultipathPercent = multipathFadePercent({
    distanceKm,
    frequencyGHz,
    txAmslM,
    rxAmslM,
    fadeMarginDb: marginDb,
    ...(dN1 === undefined ? {} : { dN1 }),
  });
  const multipathPercent = worstMonthMultipathPercent * multipathAnnualShare(path);
  const worstMonthRainPercent = rainWorstMonthPercent(rainPercent);
  return {
    rainBound,
    availabilityBound: rainBound === "atMost" ? "atLeast" : rainBound === "atLeast" ? "atMost" : null,
    rainPercent,
    multipathPercent,
    availabilityPercent: Math.max(0, 100 - rainPercent - multipathPercent),
    worstMonthRainPercent,
    worstMonthMultipathPercent,
    worstMonthAvailabilityPercent: Math.max(0, 100 - worstMonthRainPercent - worstMonthMultipathPercent),
  };
}

/** Margins looked through for the least that is enough, dB. */
const GREATEST_MARGIN_DB = 150;

/**
 * The least margin, dB, that holds for `availabilityPercent` of an average year. `isAtMost` where rain stands at the rare end of
 * its method: less may do. Null where the method cannot tell: rain is not known below 0.001 % of the time, so with rain to
 * reckon with nothing from 99.999 % on can be promised, however large the margin.
 */
export function marginForAvailabilityDb(
  path: FadingPath,
  availabilityPercent: number,
): { marginDb: number; isAtMost: boolean } | null {
  if (rainCounts(path) && 100 - availabilityPercent <= RAREST_RAIN_PERCENT + 1e-9) return null;
  const enough = (marginDb: number) => availabilityOf(path, marginDb).availabilityPercent >= availabilityPercent;
  if (!enough(GREATEST_MARGIN_DB)) return null;
  let [low, high] = [0, GREATEST_MARGIN_DB];
  if (enough(low)) high = 0;
  else
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (low + high) / 2;
      if (enough(middle)) high = middle;
      else low = middle;
    }
  return { marginDb: high, isAtMost: availabilityOf(path, high).rainBound === "atMost" };
}
