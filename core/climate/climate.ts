/**
 * What the weather of a place does to paths, where nobody has said better: coarse figures by band of latitude, read off
 * the maps of ITU-R P.837 (rain) and P.453 (refractivity) and rounded. They err to the wet side; islands, coasts and
 * mountains differ from their latitude, so a plan can hold its own.
 */
interface ClimateDefaults {
  /** The band in words. */
  name: string;
  /** Rain rate exceeded for 0.01 % of an average year, mm/h. */
  rainRate001MmPerH: number;
  /** Point refractivity gradient not exceeded for 1 % of an average year, N-units/km. */
  dN1NPerKm: number;
}

const BANDS: readonly (ClimateDefaults & { toLatDeg: number })[] = [
  { toLatDeg: 10, name: "equatorial, 0–10°", rainRate001MmPerH: 95, dN1NPerKm: -420 },
  { toLatDeg: 23.5, name: "tropical, 10–23.5°", rainRate001MmPerH: 75, dN1NPerKm: -450 },
  { toLatDeg: 35, name: "subtropical, 23.5–35°", rainRate001MmPerH: 50, dN1NPerKm: -400 },
  { toLatDeg: 45, name: "warm temperate, 35–45°", rainRate001MmPerH: 38, dN1NPerKm: -330 },
  { toLatDeg: 55, name: "temperate, 45–55°", rainRate001MmPerH: 30, dN1NPerKm: -260 },
  { toLatDeg: 65, name: "cool, 55–65°", rainRate001MmPerH: 22, dN1NPerKm: -210 },
  { toLatDeg: 90, name: "polar, from 65°", rainRate001MmPerH: 12, dN1NPerKm: -180 },
];

/** The defaults at a latitude, degrees, either hemisphere. */
export function climateAt(latDeg: number): ClimateDefaults {
  const distance = Math.abs(latDeg);
  return BANDS.find(({ toLatDeg }) => distance <= toLatDeg) ?? BANDS.at(-1)!;
}

/** A plan's own figures where it has them, else those of the latitude. */
export function climateOf(
  plan: { rainRate001MmPerH: number | null; dN1NPerKm: number | null },
  latDeg: number,
): { rainRate001MmPerH: number; dN1NPerKm: number } {
  const { rainRate001MmPerH, dN1NPerKm } = climateAt(latDeg);
  return {
    rainRate001MmPerH: plan.rainRate001MmPerH ?? rainRate001MmPerH,
    dN1NPerKm: plan.dN1NPerKm ?? dN1NPerKm,
  };
}

/**
 * Effective earth radius factor exceeded for about 99.9 % of the worst month, by path length: read off ITU-R P.530-17
 * figure 2 (continental temperate climate) to about ±0.03. Straight in log length between the points, held beyond them.
 */
const K_999: readonly [distanceKm: number, kFactor: number][] = [
  [10, 0.38],
  [20, 0.56],
  [30, 0.65],
  [50, 0.78],
  [100, 0.92],
  [200, 1.03],
];

export function kFactor999(distanceKm: number): number {
  if (distanceKm <= K_999[0]![0]) return K_999[0]![1];
  for (let i = 1; i < K_999.length; i++) {
    const [fromKm, fromK] = K_999[i - 1]!;
    const [toKm, toK] = K_999[i]!;
    if (distanceKm > toKm) continue;
    return fromK + ((toK - fromK) * Math.log(distanceKm / fromKm)) / Math.log(toKm / fromKm);
  }
  return K_999.at(-1)![1];
}
