import { z } from "zod";

const id = z.string().min(1).max(64);
const day = z.string().regex(/^\d{4}-\d\d-\d\d$/, "must be a day such as 2026-11-27");

export const ALARM_STATES = ["open", "seen", "closed"] as const;
/**
 * What the watch found of a link, or of many with one root: since when, by how much, and why most likely. It stays when it is over, with
 * how it ended.
 */
export const alarmSchema = z.object({
  id,
  planId: id,
  /** The link at the root, or one of those that a radio hurts alike; and all that it hurts. */
  linkId: id,
  linkIds: z.array(id).min(1).max(2000),
  /** The radio at the root where many links strayed with it. */
  radioId: id.nullable(),
  kind: z.string().min(1).max(40),
  sinceDay: day,
  raisedDay: day,
  /** Empty while it lasts. */
  endedDay: z.union([day, z.literal("")]),
  what: z.string().max(300),
  value: z.number().min(-1e6).max(1e6),
  unit: z.string().max(20),
  /** Most likely first; odds add up to 1. */
  causes: z
    .array(z.object({ cause: z.string().max(40), odds: z.number().min(0).max(1), because: z.string().max(600) }))
    .max(20),
  state: z.enum(ALARM_STATES),
  /** Who saw it, and why it is closed. */
  seenBy: z.string().max(120),
  closedWhy: z.string().max(300),
  /** The job that was made of it. */
  visitId: id.nullable(),
});
export type Alarm = z.infer<typeof alarmSchema>;
