import type { WatchedLink } from "./watched";

/** Share of the leaves that stand on a day of the year: none in winter, all in summer, rising over spring and falling in autumn. */
export function leafShare(dayOfYear: number, latDeg: number): number {
  const day = latDeg < 0 ? (dayOfYear + HALF_YEAR) % YEAR_DAYS : dayOfYear;
  return ramp(day, BUDS, FULL_LEAF) * (1 - ramp(day, FIRST_FALL, BARE));
}
const YEAR_DAYS = 365.25;
const HALF_YEAR = YEAR_DAYS / 2;
/** Northern days of the year between which leaves come and go. */
const [BUDS, FULL_LEAF, FIRST_FALL, BARE] = [95, 145, 275, 325];

const ramp = (day: number, from: number, to: number) => Math.max(0, Math.min(1, (day - from) / (to - from)));

/** What a link promises of the level on a chain at one end on a day (counted since 1970), with the leaves that stand then, dBm. */
export const promisedOnDbm = (
  { levelDbm, leafDb, latDeg }: Pick<WatchedLink, "levelDbm" | "leafDb" | "latDeg">,
  side: "a" | "b",
  dayIndex: number,
): number => levelDbm[side] - leafDb * leafShare(dayOfYear(dayIndex), latDeg);

/** Day of the year, from 0, of a day counted since 1970. */
export function dayOfYear(dayIndex: number): number {
  const date = new Date(dayIndex * 86_400_000);
  return dayIndex - Date.UTC(date.getUTCFullYear(), 0, 1) / 86_400_000;
}
