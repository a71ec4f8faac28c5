import { z } from "zod";
import { antennaModelSchema, POLARIZATIONS } from "../antenna";
import { POWER_INPUTS, radioModelSchema } from "../radio";

/**
 * The things of a plan, each as one flat row. They are parsed at every edge: forms, files, database rows.
 * Ids are text; heights are above ground at the thing's own place unless a name says otherwise.
 */
const id = z.string().min(1).max(64);
const name = z.string().trim().min(1, "needs a name").max(120);
const latDeg = z.number().min(-90).max(90);
const lonDeg = z.number().min(-180).max(180);
const heightM = z.number().min(0).max(500);

export const planSchema = z.object({
  id,
  name,
  ruleSetId: z.string(),
  kFactor: z.number().min(0.3).max(10),
  rainRate001MmPerH: z.number().min(0).max(250),
  availabilityPercent: z.number().min(99).max(99.999),
  /** Fade margin asked of links below 10 GHz, and what must be left in rain above it. */
  marginTargetDb: z.number().min(0).max(60),
  rainMarginDb: z.number().min(0).max(60),
  /** The two schools of acceptance: an absolute floor and a deviation from the prediction. */
  proofFloorDbm: z.number().min(-100).max(0),
  proofDeviationDb: z.number().min(0.5).max(20),
  isDemo: z.boolean(),
  createdAt: z.string(),
});
export type Plan = z.infer<typeof planSchema>;

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
  freeMounts: z.number().int().min(0).max(99),
  /** Where traffic leaves for the rest of the world. */
  isFeed: z.boolean(),
  notes: z.string().max(4000),
});
export type Site = z.infer<typeof siteSchema>;

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
  demandMbps: z.number().min(0).max(100_000),
  people: z.number().int().min(1).max(100_000),
  /** The wall or glass an indoor antenna looks through. */
  behind: z.enum(GLAZINGS),
  notes: z.string().max(4000),
});
export type Subscriber = z.infer<typeof subscriberSchema>;

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
  frequencyMHz: z.number().min(100).max(120_000),
  widthMHz: z.number().min(0.1).max(5000),
  txPowerDbm: z.number().min(-40).max(60),
  cableLossDb: z.number().min(0).max(60),
  /** Interference above thermal noise heard here, dB. */
  interferenceDb: z.number().min(0).max(80),
  ethernetM: z.number().min(0).max(1000),
  injector: z.enum(INJECTORS),
  address: z.string().max(64),
});
export type Radio = z.infer<typeof radioSchema>;

export const LINK_STATES = ["planned", "proven", "doubtful", "failed"] as const;
export type LinkState = (typeof LINK_STATES)[number];
export const linkSchema = z.object({
  id,
  planId: id,
  kind: z.enum(["access", "bridge"]),
  /** The access point, or the bridge's end nearer the feed. */
  aRadioId: id,
  bRadioId: id,
  state: z.enum(LINK_STATES),
  /** Trees in the way that the signal is planned through, metres; 0 treats trees as solid. */
  foliageDepthM: z.number().min(0).max(400),
});
export type Link = z.infer<typeof linkSchema>;

const levelDbm = z.number().min(-120).max(10);
export const measurementSchema = z.object({
  id,
  planId: id,
  linkId: id,
  measuredAt: z.string(),
  measuredBy: z.string().max(120),
  /** What each end received on each chain. */
  levelA0Dbm: levelDbm,
  levelA1Dbm: levelDbm.nullable(),
  levelB0Dbm: levelDbm,
  levelB1Dbm: levelDbm.nullable(),
  noiseADbm: levelDbm.nullable(),
  noiseBDbm: levelDbm.nullable(),
  downMbps: z.number().min(0).max(100_000).nullable(),
  upMbps: z.number().min(0).max(100_000).nullable(),
  /** The prediction it was judged against, kept because the plan may change later. */
  expectedADbm: z.number(),
  expectedBDbm: z.number(),
  notes: z.string().max(4000),
});
export type Measurement = z.infer<typeof measurementSchema>;

export const equipmentSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("antenna"), id, planId: id, body: antennaModelSchema }),
  z.object({ kind: z.literal("radio"), id, planId: id, body: radioModelSchema }),
]);
export type Equipment = z.infer<typeof equipmentSchema>;
