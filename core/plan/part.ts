import { z } from "zod";

/** Kinds of parts, by what they are for. */
export const PART_KINDS = [
  "bracket",
  "pole",
  "cable",
  "jumper",
  "connector",
  "injector",
  "switch",
  "arrester",
  "earth",
  "battery",
  "panel",
  "charger",
  "tape",
  "enclosure",
  "converter",
  "tool",
] as const;
type PartKind = (typeof PART_KINDS)[number];

export const PART_KIND_WORDS: Record<PartKind, string> = {
  bracket: "bracket",
  pole: "pole or mast",
  cable: "cable",
  jumper: "jumper",
  connector: "connector",
  injector: "injector",
  switch: "switch",
  arrester: "surge arrester",
  earth: "earth kit",
  battery: "battery",
  panel: "solar panel",
  charger: "charge controller",
  tape: "tape",
  enclosure: "enclosure",
  converter: "media converter",
  tool: "tool",
};

/** What a job takes besides radios and antennas. */
export const partSchema = z.object({
  id: z.string(),
  maker: z.string().min(1, "needs a maker").max(120),
  model: z.string().min(1, "needs a name").max(120),
  kind: z.enum(PART_KINDS),
  /** What it counts in: pieces, or metres of a drum. */
  unit: z.enum(["piece", "m"]).default("piece"),
  /** How many pieces, or metres, are sold together. */
  packOf: z.number().positive().max(100_000).default(1),
  /** Of one pack. */
  priceEur: z.number().min(0).max(1_000_000),
  /** Of one piece or metre, kg. */
  weightKg: z.number().min(0).max(10_000),
  /** Thinnest and thickest pole of a bracket, mm. */
  poleMm: z.tuple([z.number().positive(), z.number().positive()]).nullable().default(null),
  /** What it is made for: a cable's category, an injector's standard, a battery's chemistry. */
  standard: z.string().max(60).default(""),
  /** Volts, watts or ampere-hours where they matter. */
  volts: z.number().min(0).max(1000).nullable().default(null),
  watts: z.number().min(0).max(100_000).nullable().default(null),
  ampereHours: z.number().min(0).max(100_000).nullable().default(null),
  /** Sockets that a switch feeds, and how thick an earth lead is, mm². */
  ports: z.number().int().min(1).max(96).nullable().default(null),
  crossSectionMm2: z.number().min(0.5).max(300).nullable().default(null),
  /** From the order to the door; null where nobody knows. */
  deliveryDays: z.number().int().min(0).max(730).nullable().default(null),
  notes: z.string().max(400).default(""),
});
export type Part = z.infer<typeof partSchema>;
