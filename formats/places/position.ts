import { parseAxis, type Place } from "#core/geodesy";
import proj4 from "proj4";
import { parseNumber } from "../text";

/** UTM on WGS 84 to latitude and longitude, or what is wrong with it. `zone` is like "25S", hemisphere or band letter. */
export function utmToPlace(eastingM: number, northingM: number, zone: string): Place | string {
  const match = /^\s*(\d{1,2})\s*([C-HJ-NP-X])?\s*$/i.exec(zone);
  const number = Number(match?.[1]);
  if (!match || number < 1 || number > 60) return `zone "${zone}" is not 1 to 60 with a hemisphere or band letter`;
  if (!match[2]) return `zone "${zone}" needs its hemisphere: N or S, or a band letter`;
  if (!(eastingM >= 100_000 && eastingM < 1_000_000))
    return `easting ${eastingM} must lie between 100 000 and 1 000 000 m`;
  if (!(northingM >= 0 && northingM <= 10_000_000)) return `northing ${northingM} must lie between 0 and 10 000 000 m`;
  // Bands C to M lie south of the equator. A lone S is read as the hemisphere, as most exports mean it.
  const letter = match[2].toUpperCase();
  const south = letter === "S" || letter < "N";
  const [lonDeg, latDeg] = proj4(`+proj=utm +zone=${number}${south ? " +south" : ""} +datum=WGS84 +units=m`, "WGS84", [
    eastingM,
    northingM,
  ]);
  return { latDeg: latDeg!, lonDeg: lonDeg! };
}

const UTM_TEXT = /^(\d{1,2}\s*[C-HJ-NP-X])\s+(?:mE)?\s*(\d[\d.,]*)\s*(?:m?E)?[\s,;]+(\d[\d.,]*)\s*(?:m?N)?$/i;

/** Both coordinates in one text: "37.6° S, 30.2° W", "-37.6 -30.2", "S37 36.6 W30 12.5", "25S 650000 5830000". Null when unreadable. */
export function parsePosition(text: string): Place | null {
  const trimmed = text.trim();
  const utm = UTM_TEXT.exec(trimmed);
  if (utm) {
    const place = utmToPlace(parseNumber(utm[2]!, false), parseNumber(utm[3]!, false), utm[1]!);
    return typeof place === "string" ? null : place;
  }
  for (const [first, second] of splits(trimmed)) {
    const latDeg = parseAxis(first, "lat");
    const lonDeg = parseAxis(second, "lon");
    if (latDeg !== null && lonDeg !== null) return { latDeg, lonDeg };
    // Written the other way round, the letters say so.
    const swappedLat = /[NS]/i.test(second) ? parseAxis(second, "lat") : null;
    const swappedLon = /[EW]/i.test(first) ? parseAxis(first, "lon") : null;
    if (swappedLat !== null && swappedLon !== null) return { latDeg: swappedLat, lonDeg: swappedLon };
  }
  return null;
}

/** Places at which a text may part into two coordinates, the likeliest first. */
function* splits(text: string): Generator<[string, string]> {
  const cut = (at: number, length = 0): [string, string] => [text.slice(0, at), text.slice(at + length)];
  for (const mark of [";", "/", ", "]) {
    const at = text.indexOf(mark);
    if (at > 0 && text.indexOf(mark, at + 1) < 0) yield cut(at, mark.length);
  }
  const letters = [...text.matchAll(/[NSEW]/gi)].map(({ index }) => index);
  if (letters.length === 2) {
    if (letters[0] === 0) yield cut(letters[1]!);
    else yield cut(letters[0]! + 1, /^[\s,]+/.exec(text.slice(letters[0]! + 1))?.[0].length ?? 0);
  }
  const commas = [...text.matchAll(/,/g)].map(({ index }) => index);
  if (commas.length === 1) yield cut(commas[0]!, 1);
  if (commas.length === 3) yield cut(commas[1]!, 1);
  const words = text.split(/\s+/);
  if (words.length % 2 === 0)
    yield [words.slice(0, words.length / 2).join(" "), words.slice(words.length / 2).join(" ")];
}
