import type { World } from "../plan";

/** How much demand grows to in some years at so many percent a year. */
export const growthOver = (years: number, growthPercent: number): number => (1 + growthPercent / 100) ** years;

/** A plan whose customers ask for what they will ask for in some years, by the growth that the plan states. */
export function grown(world: World, years: number): World {
  const times = growthOver(years, world.plan.growthPercent);
  const subscribers = new Map(
    [...world.subscribers].map(([id, one]) => [
      id,
      { ...one, demandMbps: one.demandMbps * times, demandUpMbps: one.demandUpMbps * times },
    ]),
  );
  return { ...world, subscribers };
}
