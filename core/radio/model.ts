import ipaddr from "ipaddr.js";
import { z } from "zod";
import { JOINS } from "../antenna";

/** Whether a text is an IPv4 address with a prefix that leaves room for a laptop beside it. */
function isDeliveredAddress(text: string): boolean {
  const [address = "", prefix = "", ...rest] = text.split("/");
  return (
    rest.length === 0 &&
    ipaddr.IPv4.isValidFourPartDecimal(address) &&
    /^\d{1,2}$/.test(prefix) &&
    Number(prefix) >= 8 &&
    Number(prefix) <= 30
  );
}

export const POWER_INPUTS = ["passive24", "802.3af", "802.3at", "802.3bt", "dc48"] as const;

export const modulationSchema = z.object({
  name: z.string(),
  /** Least signal-to-noise ratio at which it holds, dB. */
  snrDb: z.number().min(-10).max(50),
  /** Raw bits per second and hertz on one chain. */
  bitsPerHz: z.number().positive().max(12),
  /** How far the transmitter must stay under its full power, dB. */
  backoffDb: z.number().min(0).max(20),
});
export type Modulation = z.infer<typeof modulationSchema>;

/** What a device's power box asks for: the power of all chains together, or that of each chain. */
export const POWER_SETTINGS = ["total", "perChain"] as const;

/** What tells the crew how well it aims. */
export const ALIGNMENT_AIDS = ["none", "leds", "tone", "meter", "page"] as const;

/** Something that lies in a radio's box. */
const boxedSchema = z.object({
  what: z.string().trim().min(1).max(80),
  /** The kind of part that need not be bought then; null for what the library has no kind of. */
  kind: z.string().max(30).nullable().default(null),
  count: z.number().int().min(1).max(1000).default(1),
  /** Rule sets in which the box holds it; empty for all. */
  ruleSetIds: z.array(z.string().max(64)).max(40).default([]),
});

export const radioModelSchema = z.object({
  id: z.string(),
  maker: z.string(),
  model: z.string(),
  use: z.enum(["sector", "subscriber", "bridge"]),
  bandMHz: z.tuple([z.number().positive(), z.number().positive()]),
  widthsMHz: z.array(z.number().positive()).min(1),
  rasterMHz: z.number().positive(),
  powerMinDbm: z.number().min(-40).max(40),
  powerMaxDbm: z.number().min(-40).max(40),
  powerStepDb: z.number().positive(),
  /** What its power box asks for. Powers in a sheet and in a plan are always conducted, all chains together. */
  powerSetting: z.enum(POWER_SETTINGS).default("total"),
  noiseFigureDb: z.number().min(0).max(20),
  chains: z.number().int().min(1).max(4),
  /** From the most robust to the fastest. */
  modulations: z.array(modulationSchema).min(1),
  duplex: z.enum(["TDD", "FDD"]),
  /** How far apart the two frequencies of an FDD radio stand, MHz; null in TDD, or where the sheet does not say. */
  duplexSpacingMHz: z.number().positive().max(20_000).nullable().default(null),
  /** Share of the frame given to the direction away from the access point (TDD). */
  downShare: z.number().min(0.05).max(1),
  /** Net over raw rate: preambles, pilots, acknowledgements. */
  efficiency: z.number().min(0.1).max(1),
  /** Strongest level on a chain at which the receiver still works, dBm. */
  overloadDbm: z.number().min(-60).max(10),
  /** Distance at which answers come too late for the radio's timing, km. */
  rangeLimitKm: z.number().positive().max(1000).default(100),
  /** How much stronger a signal on the next channel may be before it hurts, dB. */
  adjacentRejectionDb: z.number().min(0).max(100).default(20),
  /** What its fastest data socket carries each way, Mbit/s; null where the sheet does not say. */
  portMbps: z.number().positive().max(1_000_000).nullable().default(null),
  /** Sockets, one by one, in words. */
  ports: z.array(z.string().trim().min(1).max(60)).max(12).default([]),
  /** Thinnest and thickest pole that its bracket takes, mm. */
  poleMm: z.tuple([z.number().positive(), z.number().positive()]).default([25, 90]),
  /** The ways in which an antenna may be joined to it; empty where the sheet does not say. */
  joins: z.array(z.enum(JOINS)).max(JOINS.length).default([]),
  /** Whether it can turn the receive beam of an adaptive antenna. */
  steersBeam: z.boolean().default(false),
  /** Where it answers as it leaves its box, with the length of that network's prefix; every one of its model there. */
  boxAddress: z
    .string()
    .refine(
      (text) => isDeliveredAddress(text),
      "must be an IPv4 address with its prefix length, such as 192.168.1.20/24",
    )
    .default("192.168.1.20/24"),
  alignmentAid: z.enum(ALIGNMENT_AIDS).default("page"),
  clientLimit: z.number().int().positive(),
  powerInput: z.enum(POWER_INPUTS),
  /** The most that it draws, W, and for a moment as it starts; null where the sheet does not tell. */
  loadW: z.number().positive().max(1000).default(10),
  startW: z.number().positive().max(2000).nullable().default(null),
  /** The thinnest earth lead that its maker asks for, mm². */
  earthMm2: z.number().min(0.5).max(300).default(6),
  /** What else lies in its box: pieces of a kind of part, in some rule sets only where the box differs by region. */
  box: z.array(boxedSchema).max(30).default([]),
  /** From the order to the door; null where nobody knows. */
  deliveryDays: z.number().int().min(0).max(730).nullable().default(null),
  /** Volts on the alignment jack per dB above 0 dBm: −0.01 makes 0.52 V of −52 dBm. Null without a jack. */
  meterVoltsPerDbm: z.number().nullable(),
  weightKg: z.number().positive(),
  priceEur: z.number().min(0),
});
export type RadioModel = z.infer<typeof radioModelSchema>;
