import type { Crew, Visit } from "#core/plan";
import { figure } from "#core/words";

/** What is done on a job, and how it stands, in words. */
export const WORK_WORDS: Record<Visit["work"], string> = {
  build: "Build",
  aim: "Aim again",
  mend: "Mend",
  retest: "Read again",
};
export const VISIT_WORDS: Record<Visit["state"], string> = {
  planned: "○ planned",
  underway: "◐ under way",
  stopped: "✕ stopped",
  done: "● done",
};

/** What goes into the car for one end, and what of it up the mast. */
export const carriedWords = ({ carKg, climbKg }: { carKg: number; climbKg: number }): string =>
  `${figure(carKg, carKg < 10 ? 1 : 0)} kg in the car with the tools, ${figure(climbKg, climbKg < 10 ? 1 : 0)} kg of it to go up`;

/** A crew that is only named yet. */
export const newCrew = (id: string, planId: string, name: string): Crew => ({
  ...{ id, planId, name, people: "", radioChannel: "", phone: "", logins: [] },
});
