import { z } from "zod";
import { NO_SNMP, snmpSettingsSchema } from "./snmp";

const day = z.string().regex(/^\d{4}-\d\d-\d\d$/, "must be a day such as 2026-11-27");
const hour = z.number().int("must be a whole hour").min(0, "must be 0 or more").max(23, "must be 23 or less");
const side = z.enum(["a", "b"]);
const chain = z.union([z.literal(0), z.literal(1)]);
const fault = { linkId: z.string().min(1).max(64), fromDay: day, untilDay: day.or(z.literal("")).default("") };

/** What is to go wrong on the simulated network, and from which day on. */
export const plannedFaultSchema = z.discriminatedUnion("kind", [
  z.object({ ...fault, kind: z.literal("moved"), side, degrees: z.number().min(0.1).max(45) }),
  z.object({ ...fault, kind: z.literal("water"), side, chain, dbPerWetWeek: z.number().min(0.05).max(10) }),
  z.object({ ...fault, kind: z.literal("chainDead"), side, chain }),
  z.object({ ...fault, kind: z.literal("polarization"), side, degrees: z.number().min(1).max(80) }),
  z.object({ ...fault, kind: z.literal("ice"), lossDb: z.number().min(0.5).max(30) }),
  z.object({ ...fault, kind: z.literal("shade"), side }),
  z.object({ ...fault, kind: z.literal("battery"), side, voltsPerMonth: z.number().min(0.05).max(5) }),
  z.object({ ...fault, kind: z.literal("restarts"), side, atHour: hour }),
  z.object({
    ...fault,
    kind: z.literal("outsider"),
    side,
    riseDb: z.number().min(0.5).max(40),
    onlyByDay: z.boolean(),
  }),
  z.object({ ...fault, kind: z.literal("branch"), dbPerLeafMonth: z.number().min(0.1).max(15) }),
  z.object({ ...fault, kind: z.literal("outage") }),
]);
export type PlannedFault = z.infer<typeof plannedFaultSchema>;

/** Where a plan's figures come from. */
const WATCH_SOURCES = ["none", "simulated", "devices"] as const;

/** How a plan is watched. */
export const watchSettingsSchema = z.object({
  source: z.enum(WATCH_SOURCES).default("none"),
  /** The day to whose end the simulated network has been played: its clock is its own. Empty before it was. */
  clockDay: day.or(z.literal("")).default(""),
  /** What goes wrong on the simulated network. */
  faults: z.array(plannedFaultSchema).max(200).default([]),
  /** Hours, UTC, in which nobody is woken: what is raised then is told when they end. */
  quietHours: z.object({ from: hour, to: hour }).nullable().default(null),
  /** Days on which work is done: what strays on them is nobody's alarm. A null link is all of them. */
  maintenance: z
    .array(z.object({ fromDay: day, toDay: day, linkId: z.string().max(64).nullable(), why: z.string().max(200) }))
    .max(200)
    .default([]),
  /** Where alarms are told: addresses of people, and an address of a program; empty for none. */
  emails: z.array(z.email("must be an address such as ana@example.org").max(200)).max(20).default([]),
  webhook: z
    .union([
      z.url({ protocol: /^https?$/, error: "must be an address that begins with http:// or https://" }),
      z.literal(""),
    ])
    .default(""),
  snmp: snmpSettingsSchema.default(NO_SNMP),
});
export type WatchSettings = z.infer<typeof watchSettingsSchema>;
export const NO_WATCH: WatchSettings = watchSettingsSchema.parse({});
