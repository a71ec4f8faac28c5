import { fresnelRadiusM } from "#core/propagation";
import type { Profile } from "#core/terrain";
import type { Scales } from "./scales";

type Point = [x: number, y: number];

function pathOf(points: [number, number][]): string {
  return points.map(([x, y], i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`).join("");
}

/**
 * The heights that a section shows, m above sea level: ground, cover and both structures whole, so that a drag never moves the scale under
 * the hand, with some room above and below.
 */
export function shownHeightsM(
  profile: Profile,
  bulgeM: Float64Array,
  maxHeightsM: { a: number; b: number },
): [lowM: number, highM: number] {
  const last = profile.groundAmslM.length - 1;
  let low = Infinity;
  let high = Math.max(profile.groundAmslM[0]! + maxHeightsM.a, profile.groundAmslM[last]! + maxHeightsM.b);
  for (let i = 0; i <= last; i++) {
    low = Math.min(low, profile.groundAmslM[i]! + bulgeM[i]!);
    high = Math.max(high, profile.groundAmslM[i]! + profile.coverHeightM[i]! + bulgeM[i]!);
  }
  const pad = Math.max(LEAST_PAD_M, (high - low) * PAD_SHARE);
  return [low - pad, high + pad];
}
const LEAST_PAD_M = 6;
const PAD_SHARE = 0.08;

/** Kinds of cover that are drawn as bars: woods, windbreaks and buildings. */
const BAR_CODES = [2, 3, 4];
const WATER_CODE = 1;

/** The ground under a path, what stands on it, and water, as SVG paths. */
export function groundShapes(profile: Profile, bulgeM: Float64Array, { x, y, lowM }: Scales) {
  const last = profile.groundAmslM.length - 1;
  const { distancesKm, coverCode, coverHeightM } = profile;
  const groundM = (i: number) => profile.groundAmslM[i]! + bulgeM[i]!;
  const ground = Array.from({ length: last + 1 }, (_, i): Point => [x(distancesKm[i]!), y(groundM(i))]);
  const bar = (i: number): string => {
    const sides = [i - 1, i + 1].map((j) => x((distancesKm[i]! + distancesKm[j]!) / 2));
    const [left, right] = [Math.min(...sides), Math.max(...sides)];
    const foot = y(groundM(i)).toFixed(1);
    return `M${left.toFixed(1)} ${foot}V${y(groundM(i) + coverHeightM[i]!).toFixed(1)}H${(right + 0.3).toFixed(1)}V${foot}Z`;
  };
  const bars = BAR_CODES.map((code) => {
    let d = "";
    for (let i = 1; i < last; i++) if ((coverCode[i]! & 15) === code && coverHeightM[i] !== 0) d += bar(i);
    return { code, d };
  });
  let water = "";
  for (let i = 0; i < last; i++)
    if (coverCode[i] === WATER_CODE && coverCode[i + 1] === WATER_CODE) water += pathOf([ground[i]!, ground[i + 1]!]);
  const floor = y(lowM);
  const line = pathOf(ground);
  return {
    ground: `${line}L${x(profile.distanceM / 1000).toFixed(1)} ${floor}L${x(0)} ${floor}Z`,
    ...{ line, bars, water },
  };
}

/** Steps along a zone's outline. */
const ZONE_STEPS = 64;

/** A share of the first Fresnel zone about a ray, whole and its lower edge, as SVG paths. */
export function zoneShapes(
  share: number,
  { pathKm, aAmslM, bAmslM, frequencyGHz }: { pathKm: number; aAmslM: number; bAmslM: number; frequencyGHz: number },
  { x, y }: Scales,
): { whole: string; lower: string } {
  const upper: Point[] = [];
  const lower: Point[] = [];
  for (let i = 0; i <= ZONE_STEPS; i++) {
    const km = (pathKm * i) / ZONE_STEPS;
    const rayM = aAmslM + ((bAmslM - aAmslM) * i) / ZONE_STEPS;
    const radiusM = share * fresnelRadiusM({ fromKm: km, toKm: pathKm - km, frequencyGHz });
    upper.push([x(km), y(rayM + radiusM)]);
    lower.push([x(km), y(rayM - radiusM)]);
  }
  return { whole: `${pathOf([...upper, ...[...lower].reverse()])}Z`, lower: pathOf(lower) };
}
