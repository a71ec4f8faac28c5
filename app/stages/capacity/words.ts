import { yearsUntilFull } from "#core/capacity";
import { figure, shortFigure } from "#core/words";
import { addDays, format } from "date-fns";

const DAYS_A_YEAR = 365.25;
/** A date farther away says nothing. */
const FARTHEST_YEARS = 15;

export const percent = (share: number): string => (Number.isFinite(share) ? `${figure(share * 100, 0)} %` : "no end");

/** When a load reaches all there is, as demand grows; empty where no growth is stated. */
export function fullWhen(load: number, growthPercent: number): string {
  const years = yearsUntilFull(load, growthPercent);
  if (years === null) return "";
  if (years === 0) return "full now";
  if (years > FARTHEST_YEARS) return `not full within ${FARTHEST_YEARS} years`;
  return `full about ${format(addDays(new Date(), years * DAYS_A_YEAR), "MMM yyyy")}`;
}

/** What is meant by the busy hour in this plan. */
export const busyWords = (oversubscription: number): string =>
  oversubscription > 1
    ? `At the busy hour all together use what they ask for over ${shortFigure(oversubscription)}, though never less than the largest alone (oversubscription; Settings has it).`
    : "At the busy hour everybody is taken to use all he asks for at once (oversubscription 1 : 1; Settings has it).";
