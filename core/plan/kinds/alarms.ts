import { z } from "zod";
import { day, field, id, keys, kindOf } from "./field";

const ALARM_STATES = ["open", "seen", "closed"] as const;
const cause = z.object({ cause: z.string().max(40), odds: z.number().min(0).max(1), because: z.string().max(600) });

/**
 * What the watch found of a link, or of many with one root: since when, by how much, and why most likely. It stays when it is over, with
 * how it ended.
 */
export const alarmSchema = z.object({
  ...keys,
  linkId: field(id, {
    label: "Link",
    help: "The link where the fault lies, or one of those that a faulty radio affects alike.",
    refersTo: { to: "links", whenGone: "remove" },
  }),
  linkIds: field(z.array(id).min(1).max(2000), {
    label: "Links affected",
    refersTo: { to: "links", whenGone: "clear" },
  }),
  radioId: field(id.nullable(), {
    label: "Radio",
    help: "The radio at the root where many links changed with it.",
    refersTo: { to: "radios", whenGone: "clear" },
  }),
  kind: field(z.string().min(1).max(40), { label: "Kind" }),
  sinceDay: field(day, { label: "Since" }),
  raisedDay: field(day, { label: "Raised" }),
  endedDay: field(z.union([day, z.literal("")]), { label: "Ended", help: "Empty while it lasts." }),
  what: field(z.string().max(300), { label: "What" }),
  value: field(z.number().min(-1e6).max(1e6), { label: "Value" }),
  unit: field(z.string().max(20), { label: "Unit" }),
  causes: field(z.array(cause).max(20), { label: "Probable causes", help: "Most likely first; odds add up to 1." }),
  state: field(z.enum(ALARM_STATES), { label: "State" }),
  seenBy: field(z.string().max(120), { label: "Seen by" }),
  closedWhy: field(z.string().max(300), { label: "Why it is closed", short: "why closed" }),
  visitId: field(id.nullable(), {
    label: "Job",
    help: "The job that was made of it.",
    refersTo: { to: "visits", whenGone: "clear" },
  }),
});
export type Alarm = z.infer<typeof alarmSchema>;
export const alarms = kindOf(alarmSchema, { one: "alarm", many: "alarms", archiveFrom: 8 });
