import type { Place } from "./geodesic";

type CoordinateStyle = "decimal" | "dms" | "dm";

/** One coordinate as people read it aloud; hemisphere letters instead of signs. */
function formatAxis(valueDeg: number, letters: string, style: CoordinateStyle): string {
  const letter = letters[valueDeg < 0 ? 1 : 0]!;
  const size = Math.abs(valueDeg);
  if (style === "decimal") return `${size.toFixed(5)}° ${letter}`;
  if (style === "dm") {
    const thousandths = Math.round(size * 60_000);
    return `${Math.floor(thousandths / 60_000)}° ${((thousandths % 60_000) / 1000).toFixed(3)}′ ${letter}`;
  }
  const tenths = Math.round(size * 36_000);
  const minutes = Math.floor(tenths / 600);
  return `${Math.floor(minutes / 60)}° ${minutes % 60}′ ${((tenths % 600) / 10).toFixed(1)}″ ${letter}`;
}

/** A place as text in one of three customary styles, latitude first. */
export function formatPlace({ latDeg, lonDeg }: Place, style: CoordinateStyle = "decimal"): string {
  return `${formatAxis(latDeg, "NS", style)}, ${formatAxis(lonDeg, "EW", style)}`;
}

const NUMBER = /[+-]?\d+(?:[.,]\d+)?/g;

/**
 * One coordinate in decimal degrees, degrees-minutes or degrees-minutes-seconds, hemisphere by letter (before or
 * after) or sign; a decimal comma is understood. Null when it cannot be read or its parts are out of range.
 */
export function parseAxis(text: string, axis: "lat" | "lon"): number | null {
  const trimmed = text.trim().replace(/−/g, "-");
  const letters = trimmed.match(/[NSEW]/gi) ?? [];
  if (letters.length > 1) return null;
  const letter = letters[0]?.toUpperCase();
  if (letter && !(axis === "lat" ? "NS" : "EW").includes(letter)) return null;
  if (/[^\d\s.,+\-°º'′’"″”:NSEW]/i.test(trimmed)) return null;
  const parts = (trimmed.match(NUMBER) ?? []).map((part) => Number(part.replace(",", ".")));
  const [degrees, minutes = 0, seconds = 0] = parts;
  if (degrees === undefined || parts.length > 3) return null;
  if (minutes < 0 || minutes >= 60 || seconds < 0 || seconds >= 60) return null;
  if (parts.length > 1 && !Number.isInteger(degrees)) return null;
  const negative = trimmed.startsWith("-") || letter === "S" || letter === "W";
  const value = (negative ? -1 : 1) * (Math.abs(degrees) + minutes / 60 + seconds / 3600);
  return Math.abs(value) <= (axis === "lat" ? 90 : 180) ? value : null;
}
