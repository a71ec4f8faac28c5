/** Years until a load that grows by so many percent a year is all there is; 0 where it is, null where it never will be. */
export function yearsUntilFull(load: number, growthPercent: number): number | null {
  if (load >= 1) return 0;
  if (!(load > 0) || !(growthPercent > 0)) return null;
  return Math.log(1 / load) / Math.log(1 + growthPercent / 100);
}
