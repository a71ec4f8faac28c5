import type { LinkMonth } from "./summary";

export const SEASONS = ["winter", "spring", "summer", "autumn"] as const;
export type Season = (typeof SEASONS)[number];

/** Three months of a link. */
export interface LinkSeason {
  season: Season;
  /** The year in which it ends: a northern winter is that of its January. */
  year: number;
  hoursAsked: number;
  upPercent: number;
  goodPercent: number;
  /** Mean of its months' medians, dB off the promise for that time of the year; null without any. */
  deviationDb: number | null;
}

/** A link's months by meteorological season, oldest first; south of the equator winter begins in June. */
export function seasonsOf(months: readonly LinkMonth[], latDeg: number): LinkSeason[] {
  const seasons = new Map<string, LinkMonth[]>();
  for (const month of months) {
    if (month.hoursAsked === 0) continue;
    const { season, year } = seasonOf(month.month, latDeg);
    const key = `${year} ${season}`;
    const known = seasons.get(key);
    if (known) known.push(month);
    else seasons.set(key, [month]);
  }
  return [...seasons.values()].map((own) => {
    const sum = (read: (month: LinkMonth) => number) => own.reduce((total, month) => total + read(month), 0);
    const asked = sum(({ hoursAsked }) => hoursAsked);
    const deviations = own.flatMap(({ deviationDb }) => deviationDb ?? []);
    return {
      ...seasonOf(own[0]!.month, latDeg),
      hoursAsked: asked,
      upPercent: (100 * sum(({ hoursUp }) => hoursUp)) / asked,
      goodPercent: (100 * sum(({ hoursGood }) => hoursGood)) / asked,
      deviationDb: deviations.length > 0 ? deviations.reduce((total, one) => total + one, 0) / deviations.length : null,
    };
  });
}

/** The season in which a month counted from January 1970 lies. */
function seasonOf(month: number, latDeg: number): { season: Season; year: number } {
  // December is the first month of a winter, or of a summer.
  const shifted = month + 1;
  const quarter = Math.floor((((shifted % 12) + 12) % 12) / 3);
  return { season: SEASONS[latDeg >= 0 ? quarter : (quarter + 2) % 4]!, year: 1970 + Math.floor(shifted / 12) };
}
