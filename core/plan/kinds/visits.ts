import { z } from "zod";
import { field, id, keys, kindOf } from "./field";

export const VISIT_WORKS = ["build", "aim", "mend", "retest"] as const;
const VISIT_STATES = ["planned", "underway", "stopped", "done"] as const;
export const PERMITS = ["notNeeded", "toAsk", "asked", "granted"] as const;
const permit = z.enum(PERMITS);
export const PERMIT_WORDS: Readonly<Record<z.infer<typeof permit>, string>> = {
  notNeeded: "not needed",
  toAsk: "to be asked",
  asked: "asked",
  granted: "granted",
};

/** A job on both ends of a link: what, when, by whom, and what must be so before. */
export const visitSchema = z.object({
  ...keys,
  linkId: field(id, { label: "Link", refersTo: { to: "links", whenGone: "remove" } }),
  work: field(z.enum(VISIT_WORKS), { label: "Work" }),
  day: field(z.string().regex(/^(\d{4}-\d\d-\d\d)?$/, "must be a day such as 2026-11-27, or empty"), {
    label: "Day",
    help: "Empty while it is still open.",
  }),
  startMinute: field(z.number().int().min(0).max(1439), { label: "Begins, minutes after midnight", short: "begins" }),
  minutes: field(z.number().int().min(5).max(1440), { label: "Takes", unit: "min" }),
  crewAId: field(id.nullable(), {
    label: "Crew at A",
    help: "One crew at both ends goes from one to the other.",
    refersTo: { to: "crews", whenGone: "refuse" },
  }),
  crewBId: field(id.nullable(), { label: "Crew at B", refersTo: { to: "crews", whenGone: "refuse" } }),
  afterIds: field(z.array(id).max(20), { label: "After", refersTo: { to: "visits", whenGone: "clear" } }),
  weather: field(z.string().max(200), { label: "Weather that it waits for", short: "weather" }),
  powerOff: field(permit, { label: "Permit to switch power off", words: PERMIT_WORDS }),
  climb: field(permit, { label: "Permit to climb", words: PERMIT_WORDS }),
  neighboursTold: field(z.boolean(), { label: "Neighbours informed" }),
  packed: field(z.boolean(), { label: "Kit packed" }),
  state: field(z.enum(VISIT_STATES), { label: "State" }),
  stopped: field(z.string().max(1000), { label: "Why it stopped, and what is left to do", short: "why stopped" }),
  notes: field(z.string().max(4000), { label: "Notes", lines: 2 }),
});
export type Visit = z.infer<typeof visitSchema>;
export const visits = kindOf(visitSchema, { one: "job", many: "jobs", archiveFrom: 7 });
