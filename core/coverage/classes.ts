import { gasAttenuation, rainAttenuationDb } from "../propagation";
import { linearOf } from "../link";
import type { Plan, Radio } from "../plan";
import { lossIndex, type LossTable } from "./budget";
import { sideOf, type CoverageGrid } from "./grid";
import type { CellLosses } from "./sweep";

/** Why a cell gets nothing, or that it gets something. */
export const COVERAGE_REASONS = ["held", "blocked", "range", "pattern", "uplink", "unknown"] as const;
export type CoverageReason = (typeof COVERAGE_REASONS)[number];
export const REASON_WORDS: Record<CoverageReason, string> = {
  held: "holds with the margin wanted",
  blocked: "blocked by the ground or what stands on it",
  range: "beyond range, even ahead over free ground",
  pattern: "off the antenna’s pattern",
  uplink: "heard, but beyond the customer’s own reach",
  unknown: "over ground that is not known",
};

/** What every cell gets of one sector. */
export interface CoverageCells {
  /** Level on a chain at the customer and at the sector, dBm. */
  downDbm: Float32Array;
  upDbm: Float32Array;
  snrDb: Float32Array;
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
    rateMbps: new Float32Array(count),
    downMbps: new Float32Array(count),
    upMbps: new Float32Array(count),
    reason: new Uint8Array(count),
  };
}

/** Loss by gases, and what must be left for rain, by distance in tenths of a kilometre. */
export interface WeatherTable {
  gasDb: Float32Array;
  rainDb: Float32Array;
}
const TENTHS = 10;

/** From 10 GHz on rain counts, at the availability that the plan asks for; gases always do. */
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
    distanceKm === 0 || frequencyGHz < RAIN_FROM_GHZ
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
const RAIN_FROM_GHZ = 10;

/** Diffraction that takes a cell's service away is called the ground's doing; less than this is not, dB. */
const LEAST_BLOCKED_DB = 1;
const HELD = 0;
const reasonIndex = (reason: CoverageReason) => COVERAGE_REASONS.indexOf(reason);

/**
 * What every cell gets, by its loss with the pattern in it: level, SNR and rate of the weaker direction as the tapes of `table` say, and
 * why not where nothing holds with `marginDb`. `noise` is what was learned of the noise at each cell's customer, in steps of
 * `LOSS_STEP_DB`: so much more noise is to his receiver as so much more loss. Null where nothing was.
 */
export function classify(
  grid: CoverageGrid,
  losses: CellLosses,
  totalDb: Float32Array,
  table: LossTable,
  weather: WeatherTable,
  marginDb: number,
  noise: Uint16Array | null,
  into: CoverageCells,
): void {
  const { rings, cellEastKm, cellNorthKm } = grid;
  const side = sideOf(grid);
  const [blocked, range, pattern, uplink, unknown] = COVERAGE_REASONS.slice(1).map(reasonIndex) as [
    number,
    number,
    number,
    number,
    number,
  ];
  const last = table.downMbps.length - 1;
  /** Where a table's figures stand of what a customer hears, who hears so many steps of noise besides. */
  const noisy = (index: number, steps: number) => (index + steps < last ? index + steps : last);
  const holds = (index: number, steps: number, rainDb: number) => {
    const heard = noisy(index, steps);
    return (
      table.downFadeDb[heard]! - rainDb >= marginDb &&
      table.upFadeDb[index]! - rainDb >= marginDb &&
      table.downMbps[heard]! > 0 &&
      table.upMbps[index]! > 0
    );
  };
  for (let row = 0; row < side; row++) {
    const northKm = (row - rings) * cellNorthKm;
    for (let column = 0; column < side; column++) {
      const cell = row * side + column;
      const total = totalDb[cell]!;
      if (total !== total) {
        into.downDbm[cell] = into.upDbm[cell] = into.snrDb[cell] = NaN;
        into.rateMbps[cell] = into.downMbps[cell] = into.upMbps[cell] = 0;
        into.reason[cell] = unknown;
        continue;
      }
      const eastKm = (column - rings) * cellEastKm;
      const tenth = (Math.sqrt(eastKm * eastKm + northKm * northKm) * TENTHS + 0.5) | 0;
      const gasDb = weather.gasDb[tenth]!;
      const rainDb = weather.rainDb[tenth]!;
      const index = lossIndex(total + gasDb);
      into.downDbm[cell] = table.downDbm[index]!;
      into.upDbm[cell] = table.upDbm[index]!;
      const steps = noise === null ? 0 : noise[cell]!;
      const heard = noisy(index, steps);
      const [downSnrDb, upSnrDb] = [table.downSnrDb[heard]!, table.upSnrDb[index]!];
      into.snrDb[cell] = downSnrDb < upSnrDb ? downSnrDb : upSnrDb;
      if (holds(index, steps, rainDb)) {
        const downMbps = table.downMbps[heard]!;
        const upMbps = table.upMbps[index]!;
        into.downMbps[cell] = downMbps;
        into.upMbps[cell] = upMbps;
        into.rateMbps[cell] = downMbps < upMbps ? downMbps : upMbps;
        into.reason[cell] = HELD;
        continue;
      }
      into.rateMbps[cell] = into.downMbps[cell] = into.upMbps[cell] = 0;
      const diffractionDb = losses.diffractionDb[cell]!;
      const aheadDb = losses.lossDb[cell]! + gasDb;
      into.reason[cell] = !holds(lossIndex(aheadDb - diffractionDb), steps, rainDb)
        ? table.downMbps[heard]! > 0 && table.upMbps[index] === 0
          ? uplink
          : range
        : holds(lossIndex(aheadDb), steps, rainDb)
          ? pattern
          : diffractionDb >= LEAST_BLOCKED_DB
            ? blocked
            : range;
    }
  }
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
