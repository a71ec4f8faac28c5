import { z } from "zod";
import { COVER_KINDS } from "../terrain";
import { antennaModelSchema, POLARIZATIONS } from "../antenna";
import { POWER_INPUTS, radioModelSchema } from "../radio";
import { learnedSchema } from "../learn";
import { ruleSchema } from "../regulation";
import { alarmSchema } from "./alarm";
import { partSchema } from "./part";
import { procedureSchema } from "./procedure";
import { notFeatures } from "./nesting";

/**
 * The things of a plan, each as one flat row. They are parsed at every edge: forms, files, database rows.
 * Ids are text; heights are above ground at the thing's own place unless a name says otherwise.
 */
const id = z.string().min(1).max(64);
/** Characters that a name may have. */
export const LONGEST_NAME = 120;
const name = z.string().trim().min(1, "needs a name").max(LONGEST_NAME);
const latDeg = z.number().min(-90).max(90);
const lonDeg = z.number().min(-180).max(180);
const heightM = z.number().min(0).max(500);
const moment = z
  .string()
  .max(64)
  .refine((text) => Number.isFinite(Date.parse(text)), "must be a moment such as 2026-11-27T08:00:00Z");

/** How much of the zone must be free: 60 % of the first at the plan's k, or all of it at median k and less at the k of bad weather. */
export const CLEARANCE_SCHOOLS = ["sixtyPercent", "twoCondition"] as const;
export const CLIMATES = ["temperate", "tropical"] as const;
export const SEASONS = ["inLeaf", "bare"] as const;

export const planSchema = z.object({
  id,
  name,
  ruleSetId: z.string(),
  /** Rules written by the users, for the rule set "own". */
  ownRules: z.array(ruleSchema).max(100).default([]),
  kFactor: z.number().min(0.3).max(10),
  /** Null takes the climate of the path's latitude. */
  rainRate001MmPerH: z.number().min(0).max(250).nullable(),
  dN1NPerKm: z.number().min(-1500).max(0).nullable().default(null),
  clearanceSchool: z.enum(CLEARANCE_SCHOOLS).default("sixtyPercent"),
  climate: z.enum(CLIMATES).default("temperate"),
  season: z.enum(SEASONS).default("inLeaf"),
  /** How far off an antenna that aims at its far end is taken to stand, degrees. */
  pointingErrorDeg: z.number().min(0).max(20).default(0),
  availabilityPercent: z.number().min(99).max(99.999),
  /** Fade margin asked of links below 10 GHz, and what must be left in rain above it. */
  marginTargetDb: z.number().min(0).max(60),
  rainMarginDb: z.number().min(0).max(60),
  /** The two schools of acceptance: an absolute floor and a deviation from the prediction. */
  proofFloorDbm: z.number().min(-100).max(0),
  proofDeviationDb: z.number().min(0.5).max(20),
  /** What customers pay a month by the tier that they buy, and those without a named tier; 0 where nobody said. */
  tiers: z
    .array(z.object({ name: z.string().trim().min(1).max(60), monthEur: z.number().min(0).max(100_000) }))
    .max(60)
    .default([]),
  usualMonthEur: z.number().min(0).max(100_000).default(0),
  /** Work of putting up one sector, and one customer. */
  sectorWorkEur: z.number().min(0).max(1_000_000).default(0),
  customerWorkEur: z.number().min(0).max(1_000_000).default(0),
  /** At the busy hour all customers together use what they ask for over this; 1 where all use all of it at once. */
  oversubscription: z.number().min(1).max(100).default(1),
  /** How fast their demand grows, percent a year. */
  growthPercent: z.number().min(0).max(300).default(0),
  /** Gust that masts are reckoned with, m/s; days without sun that a battery is to hold; what kit may cost, 0 where nobody said. */
  gustMPerS: z.number().min(10).max(90).default(40),
  sunlessDays: z.number().min(0).max(60).default(4),
  budgetEur: z.number().min(0).max(100_000_000).default(0),
  /** Radial ice that antennas are reckoned with in the wind, mm; 0 reckons without. */
  iceMm: z.number().min(0).max(100).default(0),
  /** What readings taught; null where nothing was taken over. */
  learned: learnedSchema.nullable().default(null),
  /** Addresses that no radio may take, one entry a line, as `reservedOf` reads them. */
  reservedAddresses: z.string().max(8000).default(""),
  /** Spectrum for which the operator holds a licence or a registration: without one, no channel there is proposed. */
  licences: z
    .array(
      z
        .object({
          lowMHz: z.number().min(100).max(300_000),
          highMHz: z.number().min(100).max(300_000),
          reference: z.string().trim().max(120),
        })
        .refine(({ lowMHz, highMHz }) => lowMHz < highMHz, "must end above where it begins"),
    )
    .max(60)
    .default([]),
  isDemo: z.boolean(),
  createdAt: moment,
});
export type Plan = z.infer<typeof planSchema>;

export const BATTERY_KINDS = ["lead", "lithium"] as const;
export const SITE_POWERS = ["mains", "solar", "none"] as const;
export const siteSchema = z.object({
  id,
  planId: id,
  name,
  latDeg,
  lonDeg,
  structureKind: z.string().max(60),
  structureHeightM: heightM,
  poleDiameterMm: z.number().min(10).max(2000),
  power: z.enum(SITE_POWERS),
  /** Mounts for this plan's radios; how many are left follows from the radios planned here. */
  freeMounts: z.number().int().min(0).max(99),
  /** Where traffic leaves for the rest of the world. */
  isFeed: z.boolean(),
  /** What that feed carries, Mbit/s; 0 where unknown or no feed. */
  feedMbps: z.number().min(0).max(1_000_000),
  /** How one gets there, what its owner asks for, and what can hurt whoever works there. */
  access: z.string().max(1000),
  terms: z.string().max(1000),
  hazards: z.string().max(1000),
  notes: z.string().max(4000),
  /** A solar site's panels, W at their peak, its battery, and what it feeds besides radios. */
  panelW: z.number().min(0).max(100_000),
  batteryV: z.number().min(0).max(1000),
  batteryAh: z.number().min(0).max(100_000),
  batteryKind: z.enum(BATTERY_KINDS),
  otherLoadW: z.number().min(0).max(100_000),
  /** Share of the sun's radiation that reaches the ground here; null takes the usual one. */
  clearness: z.number().min(0.1).max(0.8).nullable(),
  /** Addresses for management, as a network with its length, and its gateway; empty where none is planned. */
  subnet: z.string().max(64),
  gateway: z.string().max(64),
  /** What the owner lets the structure bear at its foot from antennas, N·m; 0 where nobody said. */
  mastMomentNm: z.number().min(0).max(10_000_000),
  /** The switch part that feeds those radios here whose kind of power it gives; null where each has an injector of its own. */
  switchPartId: id.nullable(),
  /** What a battery behind the mains holds for the radios, Wh; 0 without one. */
  upsWh: z.number().min(0).max(1_000_000),
  /** Side of the square foot of a mount that stands on a roof by its weight alone, m; 0 where it is bolted. */
  ballastBaseM: z.number().min(0).max(20),
  /** How high above the ground that foot stands, m. */
  ballastFootM: heightM,
  /** Network of the customers served from here where they have one of their own; empty where they share the site's. */
  clientSubnet: z.string().max(64),
  /** Tags of the two networks on the wire; 0 where they are not tagged. */
  vlan: z.number().int().min(0).max(4094),
  clientVlan: z.number().int().min(0).max(4094),
});
/** What sites lacked before they had a switch, a battery behind the mains, ballast, and networks by role. */
export const USUAL_SITE_CHAIN = {
  switchPartId: null,
  upsWh: 0,
  ballastBaseM: 0,
  ballastFootM: 0,
  clientSubnet: "",
  vlan: 0,
  clientVlan: 0,
} as const;
/** What a site says of its kit until somebody does. */
export const USUAL_SITE_KIT = {
  ...USUAL_SITE_CHAIN,
  panelW: 0,
  batteryV: 24,
  batteryAh: 0,
  batteryKind: "lead",
  otherLoadW: 5,
  clearness: null,
  subnet: "",
  gateway: "",
  mastMomentNm: 0,
} as const;
export type Site = z.infer<typeof siteSchema>;

/** How far a customer has come. */
export const SUBSCRIBER_STATUSES = ["asked", "surveyed", "planned", "installed", "declined"] as const;
export type SubscriberStatus = (typeof SUBSCRIBER_STATUSES)[number];
export const MOUNTS = ["roof", "pole", "wall", "window"] as const;
export const GLAZINGS = ["none", "traditional", "thermally_efficient"] as const;
export const subscriberSchema = z.object({
  id,
  planId: id,
  name,
  latDeg,
  lonDeg,
  mount: z.enum(MOUNTS),
  antennaHeightM: heightM,
  /** The highest that an antenna can stand here, pole included. */
  maxHeightM: heightM,
  status: z.enum(SUBSCRIBER_STATUSES),
  /** What is asked for toward the customer and back. */
  demandMbps: z.number().min(0).max(100_000),
  demandUpMbps: z.number().min(0).max(100_000),
  /** Name of a service tier, where customers buy by name. */
  tier: z.string().max(60),
  people: z.number().int().min(1).max(100_000),
  /** The wall or glass an indoor antenna looks through. */
  behind: z.enum(GLAZINGS),
  notes: z.string().max(4000),
});
export type Subscriber = z.infer<typeof subscriberSchema>;

/**
 * What an access point or bridge puts on the air. It stands once, and every radio that talks to it uses it: a sector that
 * moves takes its customers along.
 */
export const carrierSchema = z.object({
  id,
  planId: id,
  /** The middle of the channel; in FDD of the lower of its two. */
  frequencyMHz: z.number().min(100).max(120_000),
  widthMHz: z.number().min(0.1).max(5000),
  /** Carriers of one group send and listen at the same times; empty for one that keeps its own time. */
  timingGroup: z.string().max(60),
  /**
   * Its power plan: customers are turned down until they arrive on each chain of the access point at this level, so that
   * none is louder than the others; null leaves every radio at the power that it is set to.
   */
  arriveAtDbm: z.number().min(-100).max(-20).nullable(),
  /** Share of the frame toward the customers where both directions take turns; null leaves it to the access point's radio. */
  downShare: z.number().min(0.05).max(0.95).nullable().default(null),
});
/** What carriers lacked before they had power plans, and before their frames could be set. */
export const NO_POWER_PLAN = { arriveAtDbm: null } as const;
export const NO_OWN_FRAME = { downShare: null } as const;
/** What a new carrier leaves to its radios. */
export const PLAIN_CARRIER = { timingGroup: "", ...NO_POWER_PLAN, ...NO_OWN_FRAME } as const;
export type Carrier = z.infer<typeof carrierSchema>;
export type Channel = Pick<Carrier, "frequencyMHz" | "widthMHz">;

export const CABLE_KINDS = ["cat5e", "cat6a", "cat5eIndoor", "fibre"] as const;
export const WIRINGS = ["straight", "crossed"] as const;
export const INJECTORS = ["none", ...POWER_INPUTS] as const;
export const radioSchema = z.object({
  id,
  planId: id,
  siteId: id.nullable(),
  subscriberId: id.nullable(),
  name,
  role: z.enum(["sector", "subscriber", "bridge"]),
  radioModelId: id,
  antennaModelId: id,
  heightM,
  /** Null aims at the other end of its link. */
  azimuthDeg: z.number().min(0).max(360).nullable(),
  tiltDownDeg: z.number().min(-90).max(90).nullable(),
  bracketTurned: z.boolean(),
  polarization: z.enum(POLARIZATIONS),
  /** The channel it uses: an access point's or bridge's own, which its far ends share. */
  carrierId: id,
  txPowerDbm: z.number().min(-40).max(60),
  cableLossDb: z.number().min(0).max(60),
  /** Interference above thermal noise heard here, dB. */
  interferenceDb: z.number().min(0).max(80),
  /** Cable between the radio and its injector or socket, m, and from there to the switch. */
  ethernetM: z.number().min(0).max(1000),
  indoorM: z.number().min(0).max(1000),
  cableKind: z.enum(CABLE_KINDS),
  injector: z.enum(INJECTORS),
  /** The bracket part of the library that holds it; null for the one in its box. */
  bracketId: id.nullable(),
  address: z.string().max(64),
  /** The version that was found on it; empty where nobody has looked. */
  firmware: z.string().max(60),
  /** Each of the jumpers between radio and antenna, m; 0 where they are one. */
  jumperM: z.number().min(0).max(100),
  wiring: z.enum(WIRINGS),
  /** Surge arresters on its cable: one at either end. */
  arresters: z.number().int().min(0).max(2),
  /** Cross section of each conductor of its own DC lead, where it has one, mm². */
  leadMm2: z.number().min(0.2).max(50).default(2.5),
});
/** What radios lacked before their chains were told joint by joint. */
export const USUAL_CHAIN = { jumperM: 0, wiring: "straight", arresters: 2 } as const;
/** What radios lacked before their DC leads had a gauge. */
export const USUAL_LEAD = { leadMm2: 2.5 } as const;
/** How a radio's cable is planned until somebody says otherwise; rows of before such fields stand so. */
export const USUAL_CABLING = {
  ...USUAL_CHAIN,
  ...USUAL_LEAD,
  indoorM: 2,
  cableKind: "cat5e",
  bracketId: null,
  firmware: "",
} as const;
export type RadioRow = z.infer<typeof radioSchema>;
/** A radio as files and records held it before channels stood in carriers. */
export const radioWithChannelSchema = radioSchema
  .omit({ carrierId: true })
  .extend(carrierSchema.pick({ frequencyMHz: true, widthMHz: true }).shape);
export type RadioWithChannel = z.infer<typeof radioWithChannelSchema>;
/** A radio together with the channel of its carrier: what every computation needs. */
export type Radio = RadioRow & Channel & Partial<Pick<Carrier, "arriveAtDbm" | "timingGroup" | "downShare">>;

export const LINK_STATES = ["planned", "proven", "doubtful", "failed"] as const;
export type LinkState = (typeof LINK_STATES)[number];
/** Stages in which a plan grows. */
export const MOST_STAGES = 9;
/** Links are of the first stage until somebody puts them later. */
export const FIRST_STAGE = { growthStage: 1 } as const;
/** A bridge carries what stands behind it until somebody types otherwise. */
export const INHERITED_RATE = { mustDownMbps: null, mustUpMbps: null } as const;
export const linkSchema = z.object({
  id,
  planId: id,
  kind: z.enum(["access", "bridge"]),
  /** The access point, or the bridge's end nearer the feed. */
  aRadioId: id,
  bRadioId: id,
  state: z.enum(LINK_STATES),
  /** Trees that the signal is planned through, metres: null measures them in the ray, 0 takes trees for solid. */
  foliageDepthM: z.number().min(0).max(400).nullable(),
  /** The stage of growth in which it is built. */
  growthStage: z.number().int().min(1).max(MOST_STAGES).default(1),
  /** What a bridge must carry from its first end to its second and back, Mbit/s; null takes it from what stands behind it. */
  mustDownMbps: z.number().min(0).max(1_000_000).nullable().default(null),
  mustUpMbps: z.number().min(0).max(1_000_000).nullable().default(null),
});
export type Link = z.infer<typeof linkSchema>;

const levelDbm = z.number().min(-120).max(10);
export const measurementSchema = z.object({
  id,
  planId: id,
  linkId: id,
  measuredAt: moment,
  measuredBy: z.string().max(120),
  /** What each end received on each chain. */
  levelA0Dbm: levelDbm,
  levelA1Dbm: levelDbm.nullable(),
  levelB0Dbm: levelDbm,
  levelB1Dbm: levelDbm.nullable(),
  /** A third and a fourth chain, of radios that have them. */
  levelA2Dbm: levelDbm.nullable().default(null),
  levelA3Dbm: levelDbm.nullable().default(null),
  levelB2Dbm: levelDbm.nullable().default(null),
  levelB3Dbm: levelDbm.nullable().default(null),
  noiseADbm: levelDbm.nullable(),
  noiseBDbm: levelDbm.nullable(),
  downMbps: z.number().min(0).max(100_000).nullable(),
  upMbps: z.number().min(0).max(100_000).nullable(),
  /** The prediction it was judged against, kept because the plan may change later: level of all chains together. */
  expectedADbm: z.number(),
  expectedBDbm: z.number(),
  /** Throughput promised each way, and the noise planned on one chain at either end; null in readings taken before they were kept. */
  expectedDownMbps: z.number().min(0).nullable().default(null),
  expectedUpMbps: z.number().min(0).nullable().default(null),
  expectedNoiseADbm: z.number().nullable().default(null),
  expectedNoiseBDbm: z.number().nullable().default(null),
  /** The plan's floor and deviation when it was judged; null in those taken before they were kept. */
  floorDbm: z.number().nullable().default(null),
  deviationDb: z.number().nullable().default(null),
  notes: z.string().max(4000),
});
export type Measurement = z.infer<typeof measurementSchema>;
/** What measurements lacked before four chains were read and criteria were kept. */
export const TWO_CHAINS = {
  ...{ levelA2Dbm: null, levelA3Dbm: null, levelB2Dbm: null, levelB3Dbm: null },
  ...{ floorDbm: null, deviationDb: null },
} as const;

export const equipmentSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("antenna"), id, planId: id, body: antennaModelSchema }),
  z.object({ kind: z.literal("radio"), id, planId: id, body: radioModelSchema }),
  z.object({ kind: z.literal("part"), id, planId: id, body: partSchema }),
  z.object({ kind: z.literal("procedure"), id, planId: id, body: procedureSchema }),
]);
export type Equipment = z.infer<typeof equipmentSchema>;

const lonLat = z.tuple([lonDeg, latDeg]);

/** One raster of the ground or of what stands on it; its cells lie in tiles under its id. */
export const LAYER_KINDS = ["bare", "surface", "cover"] as const;
export const layerSchema = z.object({
  id,
  planId: id,
  name,
  /** "surface" has trees and roofs in its heights, so nothing is stacked on it; "cover" has no ground of its own. */
  kind: z.enum(LAYER_KINDS),
  westDeg: z.number().min(-181).max(181),
  northDeg: z.number().min(-91).max(91),
  cellLonDeg: z.number().positive().max(1),
  cellLatDeg: z.number().positive().max(1),
  columns: z.number().int().positive().max(400_000),
  rows: z.number().int().positive().max(400_000),
  /** Cells without a value. */
  holeCount: z.number().int().min(0),
  addedAt: moment,
});
export type Layer = z.infer<typeof layerSchema>;

/** A wood, a building or the like with its own outline: drawn by hand or read from footprints. Outer ring first, then courts. */
export const areaSchema = z.object({
  id,
  planId: id,
  name: z.string().max(120),
  kind: z.enum(COVER_KINDS),
  heightM: z.number().min(0).max(300),
  /** How thick trees stand, as a share of a closed wood. */
  density: z.number().min(0.1).max(1),
  rings: z.array(z.array(lonLat).min(4).max(20_000)).min(1).max(200),
});
export type Area = z.infer<typeof areaSchema>;

export const OVERLAY_LIMIT_CHARACTERS = 2_000_000;
/** The user's own lines and areas, shown on the plan and taking no part in any computation. */
export const overlaySchema = z.object({
  id,
  planId: id,
  name,
  /** A GeoJSON FeatureCollection as text. */
  geojson: z
    .string()
    .max(OVERLAY_LIMIT_CHARACTERS)
    .superRefine((text, context) => {
      const wrong = text.length <= OVERLAY_LIMIT_CHARACTERS && notFeatures(text);
      if (wrong) context.addIssue({ code: "custom", message: wrong });
    }),
  shown: z.boolean(),
});
export type Overlay = z.infer<typeof overlaySchema>;

/** Levels over frequency, heard at a site with an antenna at one heading and polarization. */
export const scanSchema = z.object({
  id,
  planId: id,
  siteId: id,
  headingDeg: z.number().min(0).max(360),
  /** Opening of the scanning antenna, degrees; 360 for an omni. */
  beamwidthDeg: z.number().min(1).max(360),
  gainDbi: z.number().min(-10).max(60),
  polarization: z.enum(["H", "V"]),
  scannedAt: moment,
  source: z.string().max(120),
  /** Bandwidth in which each level was measured, kHz. */
  binKHz: z.number().min(0.1).max(1_000_000),
  frequenciesMHz: z.array(z.number().min(1).max(300_000)).min(1).max(20_000),
  levelsDbm: z.array(z.number().min(-200).max(30)).min(1).max(20_000),
});
export type Scan = z.infer<typeof scanSchema>;

/** A transmitter of somebody else whose place is known. */
export const outsiderSchema = z.object({
  id,
  planId: id,
  name,
  latDeg,
  lonDeg,
  heightM,
  /** Where it looks; null where nobody knows, or it has no front. */
  azimuthDeg: z.number().min(0).max(360).nullable(),
  /** The antenna of the library that it resembles; null radiates alike in all directions. */
  antennaModelId: id.nullable(),
  frequencyMHz: z.number().min(100).max(120_000),
  widthMHz: z.number().min(0.1).max(5000),
  /** At its peak. */
  eirpDbm: z.number().min(-40).max(90),
  /** How much of the time it sends. */
  timeShare: z.number().min(0.01).max(1),
  notes: z.string().max(1000),
});
export type Outsider = z.infer<typeof outsiderSchema>;

/** What is known of a photograph; its bytes lie under its id. */
export const photoSchema = z.object({
  id,
  planId: id,
  ownerKind: z.enum(["site", "subscriber"]),
  ownerId: id,
  name: z.string().max(160),
  caption: z.string().max(400),
  takenAt: moment.nullable(),
  latDeg: latDeg.nullable(),
  lonDeg: lonDeg.nullable(),
  widthPx: z.number().int().positive(),
  heightPx: z.number().int().positive(),
});
export type Photo = z.infer<typeof photoSchema>;

/** People who work together in one place, and how they are reached there. */
export const crewSchema = z.object({
  id,
  planId: id,
  name,
  /** Who they are, one a line. */
  people: z.string().max(1000),
  /** Channel of their hand radios, and a telephone. */
  radioChannel: z.string().max(60),
  phone: z.string().max(60),
  /** Accounts that see this crew's jobs. */
  logins: z.array(z.string().min(1).max(60)).max(30),
});
export type Crew = z.infer<typeof crewSchema>;

export const VISIT_WORKS = ["build", "aim", "mend", "retest"] as const;
export const VISIT_STATES = ["planned", "underway", "stopped", "done"] as const;
export const PERMITS = ["notNeeded", "toAsk", "asked", "granted"] as const;
const permit = z.enum(PERMITS);
/** A job on both ends of a link: what, when, by whom, and what must be so before. */
export const visitSchema = z.object({
  id,
  planId: id,
  linkId: id,
  work: z.enum(VISIT_WORKS),
  /** The day as 2026-11-27, and when it begins there, minutes after midnight; an empty day is still open. */
  day: z.string().regex(/^(\d{4}-\d\d-\d\d)?$/, "must be a day such as 2026-11-27, or empty"),
  startMinute: z.number().int().min(0).max(1439),
  minutes: z.number().int().min(5).max(1440),
  /** Who is at either end; one crew at both goes from one to the other. */
  crewAId: id.nullable(),
  crewBId: id.nullable(),
  /** Jobs that must be done before this one. */
  afterIds: z.array(id).max(20),
  /** The weather that it waits for, as somebody wrote it. */
  weather: z.string().max(200),
  powerOff: permit,
  climb: permit,
  neighboursTold: z.boolean(),
  packed: z.boolean(),
  state: z.enum(VISIT_STATES),
  /** Why it was stopped, and what is left to do. */
  stopped: z.string().max(1000),
  notes: z.string().max(4000),
});
export type Visit = z.infer<typeof visitSchema>;

/** What every row of a kind must satisfy, in an order in which rows can be put: what is pointed at goes before what points. */
export const ROW_SCHEMAS = {
  plans: planSchema,
  layers: layerSchema,
  areas: areaSchema,
  overlays: overlaySchema,
  sites: siteSchema,
  subscribers: subscriberSchema,
  equipment: equipmentSchema,
  carriers: carrierSchema,
  radios: radioSchema,
  links: linkSchema,
  measurements: measurementSchema,
  scans: scanSchema,
  outsiders: outsiderSchema,
  photos: photoSchema,
  crews: crewSchema,
  visits: visitSchema,
  alarms: alarmSchema,
} as const;
export type RowKind = keyof typeof ROW_SCHEMAS;
/** The row of each kind. */
export type RowKinds = { [K in RowKind]: z.infer<(typeof ROW_SCHEMAS)[K]> };
export const ROW_KINDS = Object.keys(ROW_SCHEMAS) as [RowKind, ...RowKind[]];
/** All but the plan itself, of which there is one. */
export const LIST_KINDS = ROW_KINDS.filter((kind): kind is Exclude<RowKind, "plans"> => kind !== "plans");
