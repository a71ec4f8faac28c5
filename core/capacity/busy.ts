/**
 * What some customers use together at the busy hour, of what each asks for or of the time that each takes: all of it over the
 * plan's oversubscription, though never less than the largest takes alone.
 */
export function busyOf(each: readonly number[], oversubscription: number): number {
  let [sum, most] = [0, 0];
  for (const one of each) {
    sum += one;
    most = Math.max(most, one);
  }
  return Math.max(most, sum / oversubscription);
}

/** Years until a load that grows by so many percent a year is all there is; 0 where it is, null where it never will be. */
export function yearsUntilFull(load: number, growthPercent: number): number | null {
  if (load >= 1) return 0;
  if (!(load > 0) || !(growthPercent > 0)) return null;
  return Math.log(1 / load) / Math.log(1 + growthPercent / 100);
}
