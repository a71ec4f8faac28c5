import { z } from "zod";
import { POLARIZATIONS } from "../../antenna";
import { POWER_INPUTS } from "../../radio";
import { carrierSchema, type Carrier, type Channel } from "./carriers";
import { field, heightM, id, keys, kindOf, name } from "./field";

const CABLE_KINDS = ["cat5e", "cat6a", "cat5eIndoor", "fibre"] as const;
const WIRINGS = ["straight", "crossed"] as const;
const INJECTORS = ["none", ...POWER_INPUTS] as const;
/** Kinds of cable and of power as people call them. */
export const CABLE_WORDS: Readonly<Record<(typeof CABLE_KINDS)[number], string>> = {
  cat5e: "5e, shielded",
  cat6a: "6A, shielded",
  cat5eIndoor: "5e for indoors",
  fibre: "fibre",
};
export const INJECTOR_NAMES: Readonly<Record<(typeof INJECTORS)[number], string>> = {
  none: "no injector",
  passive24: "passive 24 V injector",
  "802.3af": "802.3af injector",
  "802.3at": "802.3at injector",
  "802.3bt": "802.3bt injector",
  dc48: "48 V DC lead",
};
const cableM = z.number().min(0).max(1000);

export const radioSchema = z.object({
  ...keys,
  siteId: field(id.nullable(), {
    label: "Site",
    affects: ["required"],
    refersTo: { to: "sites", whenGone: "remove" },
  }),
  subscriberId: field(id.nullable(), {
    label: "Customer",
    affects: ["required"],
    refersTo: { to: "subscribers", whenGone: "remove" },
  }),
  name: field(name, { label: "Name" }),
  role: field(z.enum(["sector", "subscriber", "bridge"]), {
    label: "Role",
    words: { sector: "access point", subscriber: "subscriber radio", bridge: "end of a bridge" },
  }),
  radioModelId: field(id, {
    label: "Radio",
    refersTo: { to: "equipment", sheet: "radio", whenGone: "refuse" },
  }),
  antennaModelId: field(id, {
    label: "Antenna",
    refersTo: { to: "equipment", sheet: "antenna", whenGone: "refuse" },
  }),
  heightM: field(heightM, {
    label: "Height above ground",
    short: "height",
    unit: "m",
    step: 0.5,
    decimals: 1,
    setBy: "crew",
  }),
  azimuthDeg: field(z.number().min(0).max(360).nullable(), {
    label: "Azimuth, true",
    short: "azimuth",
    help: "Empty aims at the other end of its link.",
    unit: "°",
    decimals: 1,
  }),
  tiltDownDeg: field(z.number().min(-90).max(90).nullable(), {
    label: "Downtilt",
    help: "Empty aims at the other end of its link.",
    unit: "°",
    step: 0.5,
    decimals: 1,
  }),
  bracketTurned: field(z.boolean(), { label: "Bracket turned over" }),
  polarization: field(z.enum(POLARIZATIONS), { label: "Polarization", words: { HV: "H and V", X45: "±45°" } }),
  carrierId: field(id, {
    label: "Channel of",
    short: "channel",
    refersTo: { to: "carriers", whenGone: "refuse" },
    since: 7,
  }),
  txPowerDbm: field(z.number().min(-40).max(60), {
    label: "Transmit power, all chains",
    short: "transmit power",
    unit: "dBm",
    decimals: 1,
  }),
  cableLossDb: field(z.number().min(0).max(60), { label: "Cable loss", unit: "dB", step: 0.1, decimals: 1 }),
  interferenceDb: field(z.number().min(0).max(80), {
    label: "Noise rise over thermal noise",
    short: "noise rise",
    unit: "dB",
    step: 0.5,
    decimals: 1,
  }),
  ethernetM: field(cableM, { label: "Cable to the injector", unit: "m" }),
  indoorM: field(cableM.default(2), {
    label: "From there to the switch",
    short: "cable to the switch",
    unit: "m",
    since: 14,
  }),
  cableKind: field(z.enum(CABLE_KINDS).default("cat5e"), {
    label: "Cable",
    words: CABLE_WORDS,
    since: 14,
  }),
  injector: field(z.enum(INJECTORS), {
    label: "Fed by",
    short: "power",
    words: INJECTOR_NAMES,
  }),
  bracketId: field(id.nullable().default(null), {
    label: "Bracket",
    help: "Empty takes the one in its box.",
    since: 14,
    refersTo: { to: "equipment", sheet: "part", part: "bracket", whenGone: "refuse" },
  }),
  address: field(z.string().max(64), { label: "Address" }),
  firmware: field(z.string().max(60).default(""), {
    label: "Firmware found",
    short: "firmware",
    help: "The version that was found on it; empty where nobody has looked.",
    since: 14,
  }),
  jumperM: field(z.number().min(0).max(100).default(0), {
    label: "Jumpers, each",
    short: "jumpers",
    help: "Cables between radio and antenna; 0 where they are one.",
    unit: "m",
    step: 0.1,
    decimals: 1,
    since: 17,
  }),
  wiring: field(z.enum(WIRINGS).default("straight"), { label: "Wired", short: "wiring", since: 17 }),
  arresters: field(z.number().int().min(0).max(2).default(2), {
    label: "Surge protectors",
    help: "On its cable: one at either end.",
    since: 17,
  }),
  leadMm2: field(z.number().min(0.2).max(50).default(2.5), {
    label: "DC lead, each conductor",
    short: "DC lead",
    unit: "mm²",
    step: 0.5,
    decimals: 1,
    since: 25,
  }),
});
export type RadioRow = z.infer<typeof radioSchema>;
/** A radio as files and records held it before channels stood in carriers. */
export const radioWithChannelSchema = radioSchema
  .omit({ carrierId: true })
  .extend(carrierSchema.pick({ frequencyMHz: true, widthMHz: true }).shape);
export type RadioWithChannel = z.infer<typeof radioWithChannelSchema>;
/** A radio together with the channel of its carrier: what every computation needs. */
export type Radio = RadioRow & Channel & Partial<Pick<Carrier, "arriveAtDbm" | "timingGroup" | "downShare">>;
export const radios = kindOf(radioSchema, { one: "radio", many: "radios" });
