import type { Crew, Visit } from "#core/plan";

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
export const PERMIT_WORDS: Record<Visit["climb"], string> = {
  notNeeded: "not needed",
  toAsk: "to be asked",
  asked: "asked",
  granted: "granted",
};

/** A crew that is only named yet. */
export const newCrew = (id: string, planId: string, name: string): Crew => ({
  ...{ id, planId, name, people: "", radioChannel: "", phone: "", logins: [] },
});
