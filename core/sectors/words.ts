import type { AntennaModel, Polarization } from "../antenna";
import { signedAngleDeg } from "../geodesy";
import { figure } from "../words";
import { bestHeading, bestTilt, type HeadingRow, type TiltRow } from "./stands";
import { azimuthLossDb, edgesOf, shareOfDistance } from "./edges";

/**
 * What a sector's width is worth: where its edges lie, and what its customers' spread costs at the edge. `usedDeg` is the width that
 * holds all its customers, `farthestM` the distance of the farthest.
 */
export function widthWords(
  antenna: AntennaModel,
  polarization: Polarization,
  usedDeg: number | null,
  farthestM: number | null,
): string {
  const edges = edgesOf(antenna, polarization);
  const widths = edges
    .filter(({ leftDeg, rightDeg }) => leftDeg + rightDeg < 360)
    .map(({ depthDb, leftDeg, rightDeg }) => `${Math.round(leftDeg + rightDeg)}° at −${depthDb} dB`);
  const wide = widths.length > 0 ? widths.join(", ") : "alike all round";
  if (widths.length === 0 || usedDeg === null || farthestM === null) return `${wide}.`;
  const half = usedDeg / 2;
  const edgeDb = Math.max(azimuthLossDb(antenna, polarization, half), azimuthLossDb(antenna, polarization, -half));
  if (edgeDb < LEAST_TOLD_DB) return `${wide}.`;
  const km = (m: number) => (m / 1000).toFixed(1);
  return `${wide}; used over ${Math.round(usedDeg)}° its edge is ${edgeDb.toFixed(0)} dB down: what reaches ${km(farthestM)} km ahead reaches ${km(farthestM * shareOfDistance(edgeDb))} km there.`;
}
/** Less at the edge is not worth a word, dB. */
const LEAST_TOLD_DB = 1;

/** "2.0° down", "4.5° up" or "level": which way, in words. */
export const tiltText = (deg: number) =>
  deg === 0 ? "level" : `${figure(Math.abs(deg), 1)}° ${deg > 0 ? "down" : "up"}`;

/** What the bracket's tilt of now serves, and the tilt that serves most; empty without a table. */
export function tiltWords(rows: readonly TiltRow[], mechanicalDeg: number): string {
  const best = bestTilt(rows);
  const now = rows.find((row) => row.mechanicalDeg === mechanicalDeg);
  if (!best) return "";
  const bestText = `Bracket ${tiltText(best.mechanicalDeg)} serves most: ${best.peopleServed} people`;
  if (!now) return `${bestText}.`;
  if (now === best)
    return `The bracket ${tiltText(now.mechanicalDeg)}, as now, serves most: ${now.peopleServed} people.`;
  if (now.peopleServed < best.peopleServed)
    return `${bestText}, ${tiltText(now.mechanicalDeg)} as now ${now.peopleServed}.`;
  const gainDb = (best.weakestMarginDb ?? 0) - (now.weakestMarginDb ?? 0);
  return gainDb < LEAST_TOLD_DB
    ? `The bracket ${tiltText(now.mechanicalDeg)}, as now, serves as many as any tilt: ${now.peopleServed} people.`
    : `Bracket ${tiltText(best.mechanicalDeg)} serves the same ${now.peopleServed} people, and leaves the weakest ${figure(gainDb, 1)} dB more.`;
}

/** The heading that serves most people against that of now; empty without a table. */
export function headingWords(rows: readonly HeadingRow[], azimuthDeg: number): string {
  const best = bestHeading(rows);
  const near = (row: HeadingRow) => Math.abs(signedAngleDeg(row.azimuthDeg - azimuthDeg));
  const now = rows.reduce<HeadingRow | null>((least, row) => (!least || near(row) < near(least) ? row : least), null);
  if (!best || !now) return "";
  if (best.peopleServed > now.peopleServed)
    return `Turned to ${best.azimuthDeg}° it would serve ${best.peopleServed} people, as now ${now.peopleServed}.`;
  const gainDb = (best.weakestMarginDb ?? 0) - (now.weakestMarginDb ?? 0);
  return gainDb < LEAST_TOLD_DB
    ? `No heading serves more than the ${now.peopleServed} people of now.`
    : `Turned to ${best.azimuthDeg}° it would serve the same ${now.peopleServed} people, and leave the weakest ${figure(gainDb, 1)} dB more.`;
}
