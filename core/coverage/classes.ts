import { gasAttenuation, rainAttenuationDb } from "../propagation";
import { linearOf, RAIN_COUNTS_FROM_GHZ } from "../link";
import type { Plan, Radio } from "../plan";
import { LEAST_LOSS_DB, LOSS_STEP_DB, lossIndex, type LossTable } from "./budget";
import { sideOf, type CoverageGrid } from "./grid";
import type { CellNoise } from "./noise";
import type { CellLosses } from "./sweep";

/** Why a cell gets nothing, or that it gets something. */
export const COVERAGE_REASONS = ["held", "blocked", "range", "pattern", "uplink", "noise", "unknown"] as const;
export type CoverageReason = (typeof COVERAGE_REASONS)[number];
export const REASON_WORDS: Record<CoverageReason, string> = {
  held: "holds with the margin wanted",
  blocked: "blocked by the ground or what stands on it",
  range: "beyond range, even ahead over free ground",
  pattern: "off the antenna’s pattern",
  uplink: "heard, but beyond the customer’s own reach",
  noise: "strong enough, but too much interference or noise",
  unknown: "over ground that is not known",
};

/** What every cell gets of one sector. */
export interface CoverageCells {
  /** Level on a chain at the customer and at the sector, dBm. */
  downDbm: Float32Array;
  upDbm: Float32Array;
  /** SNR over thermal noise, and SINR over all noise, of the direction in which it is less; SINR is not a number where nothing would hold over thermal noise alone, or nobody asked what is heard. */
  snrDb: Float32Array;
  sinrDb: Float32Array;
  /** The weaker direction's rate that holds with the margin wanted, Mbit/s; 0 where none does. */
  rateMbps: Float32Array;
  /** The same of each direction by itself, both where both hold. */
  downMbps: Float32Array;
  upMbps: Float32Array;
  /** Index into `COVERAGE_REASONS`. */
  reason: Uint8Array;
}

export function newCells(grid: CoverageGrid): CoverageCells {
  const count = sideOf(grid) ** 2;
  return {
    downDbm: new Float32Array(count),
    upDbm: new Float32Array(count),
    snrDb: new Float32Array(count),
    sinrDb: new Float32Array(count),
    rateMbps: new Float32Array(count),
    downMbps: new Float32Array(count),
    upMbps: new Float32Array(count),
    reason: new Uint8Array(count),
  };
}

/** Loss by gases, and what must be left for rain, by distance in tenths of a kilometre. */
interface WeatherTable {
  gasDb: Float32Array;
  rainDb: Float32Array;
}
const TENTHS = 10;

/** Above 10 GHz rain counts, as on a tape, at the availability that the plan asks for; gases always do. */
export function weatherTable(
  plan: Plan,
  sector: Pick<Radio, "frequencyMHz" | "polarization">,
  rainRate001MmPerH: number,
  radiusKm: number,
): WeatherTable {
  const count = Math.ceil(radiusKm * TENTHS * Math.SQRT2) + 2;
  const frequencyGHz = sector.frequencyMHz / 1000;
  const { oxygenDbPerKm, vapourDbPerKm } = gasAttenuation({ frequencyGHz });
  const percentOfTime = 100 - plan.availabilityPercent;
  const rainAt = (distanceKm: number) =>
    distanceKm === 0 || frequencyGHz <= RAIN_COUNTS_FROM_GHZ
      ? 0
      : rainAttenuationDb({
          frequencyGHz,
          polarization: linearOf(sector.polarization),
          distanceKm,
          rainRate001MmPerH,
          percentOfTime,
        });
  return {
    gasDb: Float32Array.from({ length: count }, (_, i) => ((oxygenDbPerKm + vapourDbPerKm) * i) / TENTHS),
    rainDb: Float32Array.from({ length: count }, (_, i) => rainAt(i / TENTHS)),
  };
}

/** Diffraction that takes a cell's service away is called the ground's doing; less than this is not, dB. */
const LEAST_BLOCKED_DB = 1;
const HELD = 0;
const reasonIndex = (reason: CoverageReason) => COVERAGE_REASONS.indexOf(reason);

/**
 * What every cell gets, by its loss with the pattern in it: level, SNR, SINR and rate of the weaker direction as the tapes of `table`
 * say, and why not where nothing holds with `marginDb`. So much more noise is to a receiver as so much more loss.
 */
export function classify(
  grid: CoverageGrid,
  losses: CellLosses,
  totalDb: Float32Array,
  table: LossTable,
  weather: WeatherTable,
  marginDb: number,
  { downRiseDb, upRiseDb }: CellNoise,
  into: CoverageCells,
): void {
  const { rings, cellEastKm, cellNorthKm } = grid;
  const side = sideOf(grid);
  const [blocked, range, pattern, uplink, noise, unknown] = COVERAGE_REASONS.slice(1).map(reasonIndex) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const { downDbm, upDbm, downNoise, upNoise } = table;
  const [downThermalDbm, upThermalDbm] = [downNoise.dbm - downNoise.riseDb, upNoise.dbm - upNoise.riseDb];
  const holds = (downIndex: number, upIndex: number, rainDb: number) =>
    table.downFadeDb[downIndex]! - rainDb >= marginDb &&
    table.upFadeDb[upIndex]! - rainDb >= marginDb &&
    table.downMbps[downIndex]! > 0 &&
    table.upMbps[upIndex]! > 0;
  /** By distance the most loss that would hold if there were thermal noise alone. */
  let [rainBefore, mostBefore] = [NaN, NaN];
  const mostQuietDb = Float64Array.from(weather.rainDb, (rainDb) => {
    // Where rain does not count, all distances have one answer.
    if (rainDb !== rainBefore) [rainBefore, mostBefore] = [rainDb, mostHeldDb(table, marginDb + rainDb)];
    return mostBefore;
  });
  /** Nearer than this a receiver is overloaded, and noise does not make it weaker. */
  const leastIndex = table.downMbps.findIndex((mbps, i) => mbps > 0 && table.upMbps[i]! > 0);
  for (let row = 0; row < side; row++) {
    const northKm = (row - rings) * cellNorthKm;
    for (let column = 0; column < side; column++) {
      const cell = row * side + column;
      const total = totalDb[cell]!;
      if (total !== total) {
        into.downDbm[cell] = into.upDbm[cell] = into.snrDb[cell] = into.sinrDb[cell] = NaN;
        into.rateMbps[cell] = into.downMbps[cell] = into.upMbps[cell] = 0;
        into.reason[cell] = unknown;
        continue;
      }
      const eastKm = (column - rings) * cellEastKm;
      const tenth = (Math.sqrt(eastKm * eastKm + northKm * northKm) * TENTHS + 0.5) | 0;
      const gasDb = weather.gasDb[tenth]!;
      const rainDb = weather.rainDb[tenth]!;
      const lossDb = total + gasDb;
      const index = lossIndex(lossDb);
      const [heardDbm, sentDbm] = [downDbm[index]!, upDbm[index]!];
      into.downDbm[cell] = heardDbm;
      into.upDbm[cell] = sentDbm;
      const [downSnrDb, upSnrDb] = [heardDbm - downThermalDbm, sentDbm - upThermalDbm];
      into.snrDb[cell] = downSnrDb < upSnrDb ? downSnrDb : upSnrDb;
      const riseDb = downRiseDb === null ? 0 : downRiseDb[cell]!;
      const [downSinrDb, upSinrDb] = [heardDbm - downNoise.dbm - riseDb, sentDbm - upNoise.dbm - upRiseDb];
      const downIndex = riseDb === riseDb ? lossIndex(lossDb + riseDb) : index;
      const upIndex = lossIndex(lossDb + upRiseDb);
      const isFit = leastIndex >= 0 && index >= leastIndex;
      const mostDb = mostQuietDb[tenth]!;
      const holdsInQuiet = isFit && lossDb <= mostDb;
      into.sinrDb[cell] = !holdsInQuiet || riseDb !== riseDb ? NaN : downSinrDb < upSinrDb ? downSinrDb : upSinrDb;
      if (isFit && holds(downIndex, upIndex, rainDb)) {
        const downMbps = table.downMbps[downIndex]!;
        const upMbps = table.upMbps[upIndex]!;
        into.downMbps[cell] = downMbps;
        into.upMbps[cell] = upMbps;
        into.rateMbps[cell] = downMbps < upMbps ? downMbps : upMbps;
        into.reason[cell] = HELD;
        continue;
      }
      into.rateMbps[cell] = into.downMbps[cell] = into.upMbps[cell] = 0;
      const diffractionDb = losses.diffractionDb[cell]!;
      const aheadDb = losses.lossDb[cell]! + gasDb;
      into.reason[cell] = holdsInQuiet
        ? noise
        : aheadDb - diffractionDb > mostDb
          ? table.downMbps[index]! > 0 && table.upMbps[index] === 0
            ? uplink
            : range
          : aheadDb <= mostDb
            ? pattern
            : diffractionDb >= LEAST_BLOCKED_DB
              ? blocked
              : range;
    }
  }
}

/** The most loss at which both directions hold with a margin over thermal noise alone, dB; −Infinity where none does. */
function mostHeldDb(table: LossTable, marginDb: number): number {
  const { downFadeDb, upFadeDb, downMbps, upMbps, downNoise, upNoise } = table;
  const mostDb = (fadeDb: Float32Array, mbps: Float32Array, riseDb: number) => {
    for (let i = mbps.length - 1; i >= 0; i--)
      if (fadeDb[i]! >= marginDb && mbps[i]! > 0) return LEAST_LOSS_DB + i * LOSS_STEP_DB + riseDb;
    return -Infinity;
  };
  return Math.min(mostDb(downFadeDb, downMbps, downNoise.riseDb), mostDb(upFadeDb, upMbps, upNoise.riseDb));
}

/** Steps of rate for a legend: those that a table's tapes give in one direction or the weaker one, rising. */
export function rateSteps({ downMbps, upMbps }: LossTable, way: "weaker" | "down" | "up" = "weaker"): number[] {
  const steps = new Set<number>();
  for (let i = 0; i < downMbps.length; i++) {
    const [down, up] = [downMbps[i]!, upMbps[i]!];
    const rate = way === "down" ? down : way === "up" ? up : Math.min(down, up);
    if (rate > 0) steps.add(rate);
  }
  return [...steps].sort((x, y) => x - y);
}
