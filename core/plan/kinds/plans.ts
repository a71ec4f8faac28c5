import { z } from "zod";
import { learnedSchema } from "../../learn";
import { ruleSchema } from "../../regulation";
import { field, id, kindOf, moment, name } from "./field";

/** How much of the zone must be free: 60 % of the first at the plan's k, or all of it at median k and less at the k of bad weather. */
export const CLEARANCE_SCHOOLS = ["sixtyPercent", "twoCondition"] as const;
export const CLIMATES = ["temperate", "tropical"] as const;
export const SEASONS = ["inLeaf", "bare"] as const;

const euro = (most: number) => z.number().min(0).max(most);
const licence = z
  .object({
    lowMHz: z.number().min(100).max(300_000),
    highMHz: z.number().min(100).max(300_000),
    reference: z.string().trim().max(120),
  })
  .refine(({ lowMHz, highMHz }) => lowMHz < highMHz, "must end above where it begins");

export const planSchema = z.object({
  id: field(id, { label: "Id", affects: [], setBy: "tejado" }),
  name: field(name, { label: "Name", affects: [] }),
  ruleSetId: field(z.string(), { label: "Rule set" }),
  ownRules: field(z.array(ruleSchema).max(100).default([]), {
    label: "Own rules",
    help: "Rules that you wrote yourself, for the rule set “own”.",
    since: 4,
  }),
  kFactor: field(z.number().min(0.3).max(10), { label: "k-factor", start: 4 / 3 }),
  rainRate001MmPerH: field(z.number().min(0).max(250).nullable(), {
    label: "Rain rate exceeded 0.01 % of the year",
    short: "rain rate",
    help: "Empty takes the rain of the path’s latitude.",
    unit: "mm/h",
  }),
  dN1NPerKm: field(z.number().min(-1500).max(0).nullable().default(null), {
    label: "Refractivity gradient",
    unit: "N/km",
    since: 4,
  }),
  clearanceSchool: field(z.enum(CLEARANCE_SCHOOLS).default("sixtyPercent"), { label: "Clearance rule", since: 4 }),
  climate: field(z.enum(CLIMATES).default("temperate"), { label: "Climate", since: 4 }),
  season: field(z.enum(SEASONS).default("inLeaf"), {
    label: "Season",
    words: { inLeaf: "in leaf", bare: "bare" },
    since: 4,
  }),
  pointingErrorDeg: field(z.number().min(0).max(20).default(0), { label: "Pointing error", unit: "°", since: 4 }),
  availabilityPercent: field(z.number().min(99).max(99.999), { label: "Availability", unit: "%", start: 99.95 }),
  marginTargetDb: field(z.number().min(0).max(60), {
    label: "Fade margin",
    help: "Asked of links below 10 GHz.",
    unit: "dB",
    start: 10,
  }),
  rainMarginDb: field(z.number().min(0).max(60), {
    label: "Margin left in rain",
    help: "Asked of links above 10 GHz, beyond the fade of the wanted availability.",
    unit: "dB",
    start: 3,
  }),
  proofFloorDbm: field(z.number().min(-100).max(0), { label: "Acceptance floor", unit: "dBm", start: -65 }),
  proofDeviationDb: field(z.number().min(0.5).max(20), { label: "Acceptance deviation", unit: "dB", start: 4 }),
  tiers: field(
    z
      .array(z.object({ name: z.string().trim().min(1).max(60), monthEur: euro(100_000) }))
      .max(60)
      .default([]),
    { label: "Prices by service tier", short: "tiers", since: 11 },
  ),
  usualMonthEur: field(euro(100_000).default(0), { label: "Price a month without a tier", unit: "€", since: 11 }),
  sectorWorkEur: field(euro(1_000_000).default(0), { label: "Work to put up a sector", unit: "€", since: 11 }),
  customerWorkEur: field(euro(1_000_000).default(0), { label: "Work to connect a customer", unit: "€", since: 11 }),
  oversubscription: field(z.number().min(1).max(100).default(1), {
    label: "Oversubscription",
    help: "What customers buy over what they use together at the busy hour.",
    unit: ": 1",
    affects: ["required"],
    since: 12,
  }),
  growthPercent: field(z.number().min(0).max(300).default(0), {
    label: "Growth of demand",
    unit: "% a year",
    since: 12,
  }),
  gustMPerS: field(z.number().min(10).max(90).default(40), { label: "Design wind gust", unit: "m/s", since: 14 }),
  sunlessDays: field(z.number().min(0).max(60).default(4), { label: "Days without sun", unit: "days", since: 14 }),
  budgetEur: field(euro(100_000_000).default(0), {
    label: "Budget for kit",
    help: "0: no limit.",
    unit: "€",
    since: 14,
  }),
  iceMm: field(z.number().min(0).max(100).default(0), { label: "Radial ice", unit: "mm", since: 17 }),
  learned: field(learnedSchema.nullable().default(null), { label: "Calibration from measurements", since: 21 }),
  reservedAddresses: field(z.string().max(8000).default(""), {
    label: "Reserved addresses",
    help: "No radio takes them; one entry a line.",
    lines: 4,
    since: 22,
  }),
  licences: field(z.array(licence).max(60).default([]), {
    label: "Licensed spectrum",
    help: "Spectrum for which you hold a licence or a registration; without one, no channel there is proposed.",
    since: 25,
  }),
  isDemo: field(z.boolean(), { label: "Demo", affects: [], setBy: "tejado" }),
  createdAt: field(moment, { label: "Created", affects: [], setBy: "tejado" }),
});
export type Plan = z.infer<typeof planSchema>;
export const plans = kindOf(planSchema, { one: "plan's settings", many: "plan settings" });
