/**
 * Share of the sun's radiation outside the air that reaches level ground, by absolute latitude and by season, on the safe side: rules of
 * thumb for sizing where nobody has measured.
 */
const ROWS = [
  { latitudeDeg: 0, summer: 0.45, winter: 0.45 },
  { latitudeDeg: 20, summer: 0.47, winter: 0.48 },
  { latitudeDeg: 30, summer: 0.5, winter: 0.45 },
  { latitudeDeg: 40, summer: 0.5, winter: 0.38 },
  { latitudeDeg: 50, summer: 0.44, winter: 0.28 },
  { latitudeDeg: 60, summer: 0.42, winter: 0.22 },
  { latitudeDeg: 70, summer: 0.4, winter: 0.2 },
];

/**
 * How far each month is on its way from winter to summer in the north, January first: the three months of the lowest sun are winter, the three
 * of the highest summer, by quarters between.
 */
const SUMMER_SHARE = [0, 0.25, 0.5, 0.75, 1, 1, 1, 0.75, 0.5, 0.25, 0, 0];

const between = (from: number, to: number, share: number): number => from + (to - from) * share;

/** Clearness of the air that is reckoned with at a latitude in each month, January first, 0 to 1. South of the equator half a year later. */
export function usualClearness(latDeg: number): number[] {
  const latitudeDeg = Math.min(Math.abs(latDeg), ROWS.at(-1)!.latitudeDeg);
  const above = Math.max(
    1,
    ROWS.findIndex((row) => row.latitudeDeg >= latitudeDeg),
  );
  const [low, high] = [ROWS[above - 1]!, ROWS[above]!];
  const share = (latitudeDeg - low.latitudeDeg) / (high.latitudeDeg - low.latitudeDeg);
  const [winter, summer] = (["winter", "summer"] as const).map((season) => between(low[season], high[season], share));
  return SUMMER_SHARE.map((_, month) => between(winter!, summer!, SUMMER_SHARE[(month + (latDeg < 0 ? 6 : 0)) % 12]!));
}
