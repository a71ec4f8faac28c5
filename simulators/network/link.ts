import { dayOfYear, leafShare, type Metric, type Side, type WatchedLink } from "#core/watch";
import { pointingLossDb, polarizationLossDb, type Fault } from "./faults";
import { normalAt, seedOf, slowAt, uniformAt } from "./noise";
import { weatherAt } from "./weather";

/** A link that stands for a real one: what it was promised, and what it does in truth. */
export interface SimulatedLink extends WatchedLink {
  seed: number;
  /** What rain of so many mm/h takes, dB for each. */
  rainDbPerMmPerH: number;
  /** In truth it is so much better than predicted, and its leaves take so many times what was reckoned. */
  biasDb: number;
  leafFactor: number;
  /** Asked for at the busiest hour, and how much of a sector's time that takes, percent. */
  busyMbps: number;
  airtimePercent: number;
  /** By how much both grow in a year, percent, and the hour since 1970 at which they were as they stand here. */
  growth: { percentAYear: number; fromHour: number };
  /** Nominal supply at each end, V. */
  supplyV: { a: number; b: number };
  faults: readonly Fault[];
}

export type Told = Partial<Record<Metric, number>>;

const isOn = (fault: Fault, hour: number) => hour >= fault.fromHour && hour < (fault.untilHour ?? Infinity);

/** Rain of an hour soaks in and dries over about two weeks. */
const DRY_H = 24 * 14;
/** How far back what is wet or grown now began, hours. */
const SOAK_H = 24 * 40;

/** Every figure that one end of a link tells at a moment (hours since 1970, with a fraction); null while it is silent. The same for the same link and moment. */
export function toldAt(link: SimulatedLink, side: Side, hour: number, memory: Memory): Told | null {
  const whole = Math.floor(hour);
  const weather = memory.weather(whole);
  const minute = Math.round(hour * 60);
  const day = Math.floor(hour / 24);
  const endSeed = seedOf(link.seed, side);
  const faults = link.faults.filter((fault) => isOn(fault, hour));
  if (faults.some(({ kind }) => kind === "outage")) return null;
  const leaves = leafShare(dayOfYear(day), link.latDeg);
  let pathDb =
    link.biasDb -
    link.leafDb * link.leafFactor * leaves -
    link.rainDbPerMmPerH * weather.rainMmPerH +
    0.25 * slowAt(link.seed + 11, hour, 40) +
    0.15 * slowAt(link.seed + 12, hour, 200);
  // Amplifiers drift with the day's warmth, some up and some down; on warm still nights the air bends the path.
  pathDb += 0.03 * (link.seed % 2 ? 1 : -1) * (weather.temperatureC - 15);
  const ducting = slowAt(link.seed + 14, hour, 30);
  if (weather.sun === 0 && weather.windMPerS < 4 && ducting > 1)
    pathDb -= 5 * (ducting - 1) * Math.abs(normalAt(link.seed + 15, minute));
  if (link.leafDb > 0) pathDb -= link.leafDb * (0.3 * leaves * Math.min(1, memory.wetness(whole)));
  if (link.leafDb > 0) pathDb -= 0.02 * link.leafDb * weather.windMPerS * Math.abs(normalAt(link.seed + 13, minute));
  const chainDb: [number, number] = [0, 0];
  let [noiseDb, rateShare] = [0, 1];
  let [nightLost, dayLost] = [0, 0];
  let sinceRestartMin = memory.upMinutes(minute);
  for (const fault of faults)
    switch (fault.kind) {
      case "moved":
        pathDb -= pointingLossDb(fault.degrees, fault.beamwidthDeg);
        break;
      case "water": {
        // The joint is one for sending and listening: both directions lose it.
        const weeks = (hour - fault.fromHour) / 168;
        chainDb[fault.chain] -= Math.min(18, fault.dbPerWetWeek * weeks * (0.7 + 0.6 * memory.wetness(whole)));
        break;
      }
      case "chainDead":
        if (fault.side === side) chainDb[fault.chain] -= 24;
        break;
      case "polarization":
        pathDb -= polarizationLossDb(fault.degrees);
        // What one chain sends comes in on the other as well.
        rateShare *= Math.max(0.25, 1 - fault.degrees / 45);
        break;
      case "ice":
        pathDb -= fault.lossDb;
        break;
      case "shade":
        if (fault.side === side) [nightLost, dayLost] = [0.045, 0.04];
        break;
      case "battery":
        // By day the controller holds the voltage; by night an old battery shows.
        if (fault.side === side) nightLost = Math.min(0.14, (fault.voltsPerMonth * (hour - fault.fromHour)) / 720 / 24);
        break;
      case "restarts":
        if (fault.side === side) {
          const since = ((((hour - fault.atHour) % 24) + 24) % 24) * 60;
          sinceRestartMin = Math.min(sinceRestartMin, since);
        }
        break;
      case "outsider":
        if (fault.side === side && (!fault.onlyByDay || (hour % 24 >= 7 && hour % 24 < 20))) noiseDb += fault.riseDb;
        break;
      case "branch":
        pathDb -= Math.min(20, fault.dbPerLeafMonth * memory.leafMonths(fault.fromHour, hour));
        break;
    }
  const fading = (chain: number) => 0.7 * normalAt(endSeed + 21 + chain, minute);
  const base = link.levelDbm[side] + pathDb;
  const level0 = base + chainDb[0] + fading(0);
  const level1 = base + chainDb[1] + fading(1);
  // Evenings on which a neighbour is busy.
  if (hour % 24 > 17 && uniformAt(endSeed + 36, whole) < 0.04) noiseDb += 6;
  const noise =
    link.noiseDbm[side] + noiseDb + 0.3 * normalAt(endSeed + 31, minute) + 0.2 * slowAt(endSeed + 32, hour, 30);
  const planned = link.levelDbm[side] - link.noiseDbm[side];
  const heard =
    link.chains === 2
      ? Math.max(level0, level1) - 3 + 10 * Math.log10(1 + 10 ** (-Math.abs(level0 - level1) / 10))
      : level0;
  const lostDb = Math.max(0, planned - (heard - noise) - 2);
  const rate =
    link.rateMbps[side] * rateShare * Math.max(0.05, 1 - 0.05 * lostDb) * (1 + 0.02 * normalAt(endSeed + 33, minute));
  const busy = 0.25 + 0.75 * Math.max(0, Math.sin((Math.PI * ((hour % 24) - 9)) / 15));
  const grown = (1 + link.growth.percentAYear / 100) ** ((hour - link.growth.fromHour) / HOURS_A_YEAR);
  const asked = link.busyMbps * grown * busy * (1 + 0.15 * normalAt(endSeed + 34, minute));
  const nominal = link.supplyV[side];
  const night = 1 - Math.min(1, weather.sun * 3);
  const supplyV = link.isSolar[side]
    ? nominal * (1.06 - 0.03 * night - nightLost * night - dayLost * (1 - night)) +
      0.004 * nominal * normalAt(endSeed + 35, minute)
    : nominal * (1 + 0.003 * normalAt(endSeed + 35, minute));
  return {
    // Radios tell whole decibels.
    level0Dbm: Math.round(level0),
    ...(link.chains === 2 ? { level1Dbm: Math.round(level1) } : {}),
    noiseDbm: noise,
    rateMbps: Math.max(0, rate),
    throughputMbps: Math.max(0, Math.min(rate * 0.8, asked)),
    airtimePercent: Math.max(
      0,
      Math.min(100, (link.airtimePercent * grown * busy * link.rateMbps[side]) / Math.max(rate, 1)),
    ),
    uptimeMin: sinceRestartMin,
    temperatureC: weather.temperatureC + 12 + 8 * weather.sun,
    supplyV,
  };
}

const HOURS_A_YEAR = 8766;

/** What the past left in a place by now: worked out once for each hour, for all links there. */
export interface Memory {
  weather: (hour: number) => ReturnType<typeof weatherAt>;
  /** 0 dry to about 1 soaked. */
  wetness: (hour: number) => number;
  /** Months of growth in leaf since an hour. */
  leafMonths: (fromHour: number, hour: number) => number;
  /** Minutes since every device of the place was last started together. */
  upMinutes: (minute: number) => number;
}

/** The past of a place by the seed of its world. */
export function memoryOf(seed: number, latDeg: number): Memory {
  const weathers = new Map<number, ReturnType<typeof weatherAt>>();
  const wet = new Map<number, number>();
  const weather = (hour: number) => {
    let found = weathers.get(hour);
    if (!found) weathers.set(hour, (found = weatherAt(seed, latDeg, hour)));
    return found;
  };
  const wetness = (hour: number): number => {
    const known = wet.get(hour);
    if (known !== undefined) return known;
    const before = wet.get(hour - 1);
    let soaked = before ?? 0;
    for (let h = before === undefined ? hour - SOAK_H : hour; h <= hour; h++)
      soaked = soaked * (1 - 1 / DRY_H) + weather(h).rainMmPerH / 40;
    soaked = Math.min(1.5, soaked);
    wet.set(hour, soaked);
    return soaked;
  };
  const leafMonths = (fromHour: number, hour: number) => {
    let sum = 0;
    const last = Math.floor(hour / 24);
    for (let day = Math.floor(fromHour / 24); day < last; day++) sum += leafShare(dayOfYear(day), latDeg);
    return sum / 30;
  };
  return { weather, wetness, leafMonths, upMinutes: (minute) => (minute + 7919) % UP_MIN };
}
/** Devices are started anew about every three weeks: a kept figure of uptime ends there. */
const UP_MIN = 60 * 24 * 22;
