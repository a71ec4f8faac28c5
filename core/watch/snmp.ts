import { z } from "zod";
import { linksOn, type World } from "../plan";
import { endSeries, METRICS, type Metric } from "./metrics";
import { counterDelta, type Sample } from "./sample";

const METRIC_KEYS = METRICS.map(({ key }) => key) as [Metric, ...Metric[]];
const oid = z
  .string()
  .regex(/^\d+(\.\d+){2,60}$/, "must be an object such as 1.3.6.1.4.1.99999.1.1.0")
  .max(300);

/** What an object means: the figure is the object times `scale`. */
const objectSchema = z.object({ metric: z.enum(METRIC_KEYS), oid, scale: z.number().min(-1e6).max(1e6) });
/** An access point's table of those whom it serves, a row each: the column that says who it is, and what other columns mean. */
const clientsSchema = z.object({ whoColumn: oid, objects: z.array(objectSchema).max(20) });
/** Which objects of a model mean what. */
export const snmpModelSchema = z.object({
  radioModelId: z.string().min(1).max(64),
  /** The interface toward the air, by its index; 0 where its counters are not read. */
  airInterface: z.number().int().min(0).max(100_000),
  objects: z.array(objectSchema).max(40),
  clients: clientsSchema.nullable().default(null),
});
/** Authentication and encryption of SNMPv3, strongest first (RFC 3414, 3826, 7860; AES-256 as most makers have it). */
export const SNMP_AUTHS = ["sha512", "sha384", "sha256", "sha224", "sha", "md5"] as const;
export const SNMP_PRIVACIES = ["aes256r", "aes256b", "aes", "des"] as const;
/** Protocols that are broken or close to it: many devices know nothing else. */
export const WEAK_SNMP: ReadonlySet<string> = new Set(["sha", "md5", "des"]);
export const SNMP_PROTOCOL_WORDS: Record<(typeof SNMP_AUTHS)[number] | (typeof SNMP_PRIVACIES)[number], string> = {
  ...{ sha512: "SHA-512", sha384: "SHA-384", sha256: "SHA-256", sha224: "SHA-224", sha: "SHA-1", md5: "MD5" },
  ...{ aes256r: "AES-256 (Reeder)", aes256b: "AES-256 (Blumenthal)", aes: "AES-128", des: "DES" },
};

/** How devices are asked by SNMP. Community, password and key are secrets and stand elsewhere. */
export const snmpSettingsSchema = z.object({
  isOn: z.boolean(),
  version: z.enum(["2c", "3"]),
  /** Name of the user, for version 3, and the protocols that the device knows. */
  user: z.string().max(60),
  auth: z.enum(SNMP_AUTHS).default("sha256"),
  privacy: z.enum(SNMP_PRIVACIES).default("aes"),
  port: z.number().int().min(1).max(65_535),
  models: z.array(snmpModelSchema).max(200),
});
export type SnmpSettings = z.infer<typeof snmpSettingsSchema>;
export type SnmpModel = z.infer<typeof snmpModelSchema>;
export const NO_SNMP: SnmpSettings = {
  isOn: false,
  version: "2c",
  user: "",
  auth: "sha256",
  privacy: "aes",
  port: 161,
  models: [],
};

/** Objects of the standard that every device has: hundredths of a second since its start, and octets by interface (RFC 3418, RFC 2863). */
export const UPTIME_OID = "1.3.6.1.2.1.1.3.0";
export const inOctetsOid = (index: number) => `1.3.6.1.2.1.31.1.1.1.6.${index}`;
export const outOctetsOid = (index: number) => `1.3.6.1.2.1.31.1.1.1.10.${index}`;

/** What a device answered at one moment; null where it does not know an object. */
export interface SnmpReading {
  atMs: number;
  upHundredths: number | null;
  /** How often its clock has begun anew without a restart, as far as it was watched. */
  wraps?: number;
  inOctets: number | null;
  outOctets: number | null;
  figures: Partial<Record<Metric, number>>;
  /** Rows of its table of clients: who each is, as the device says it, and how the device hears and serves it. */
  clients: SnmpClient[];
}
export interface SnmpClient {
  who: string;
  figures: Partial<Record<Metric, number>>;
}

/** The clock of a device begins anew after 2³² hundredths of a second, 497 days, without a restart. */
const CLOCK_WRAP = 2 ** 32;
const NEAR_WRAP = 100 * 3600;

/** Whether a device's clock ran over between two readings, rather than the device having restarted. */
const hasWrapped = (now: SnmpReading, before: SnmpReading): boolean =>
  now.upHundredths !== null &&
  before.upHundredths !== null &&
  now.upHundredths < before.upHundredths &&
  before.upHundredths >= CLOCK_WRAP - NEAR_WRAP;

/** A reading that goes on from the one before: a clock that ran over counts on from where it was. */
export function carriedOn(now: SnmpReading, before: SnmpReading | null): SnmpReading {
  if (!before || now.upHundredths === null || before.upHundredths === null) return now;
  if (hasWrapped(now, before)) return { ...now, wraps: (before.wraps ?? 0) + 1 };
  return now.upHundredths >= before.upHundredths && before.wraps ? { ...now, wraps: before.wraps } : now;
}

/** A reading as the figures of a sample; throughput needs the reading before it, and is not told over a restart. */
export function snmpFigures(now: SnmpReading, before: SnmpReading | null): Partial<Record<Metric, number>> {
  const values: Partial<Record<Metric, number>> = { ...now.figures };
  if (now.upHundredths !== null)
    values.uptimeMin = Math.floor((now.upHundredths + (now.wraps ?? 0) * CLOCK_WRAP) / 6000);
  const seconds = before ? (now.atMs - before.atMs) / 1000 : 0;
  if (before && seconds > 0) {
    const hasRestarted =
      now.upHundredths !== null &&
      before.upHundredths !== null &&
      now.upHundredths < before.upHundredths &&
      !hasWrapped(now, before);
    const delta = (one: number | null, other: number | null) =>
      one === null || other === null ? null : counterDelta(other, one, 64, hasRestarted);
    const octets = [delta(now.inOctets, before.inOctets), delta(now.outOctets, before.outOctets)];
    if (octets.every((count) => count !== null))
      values.throughputMbps = (8 * (octets[0]! + octets[1]!)) / seconds / 1e6;
  }
  return withinReason(values);
}

/** What a device tells beyond all reason is not told on. */
function withinReason(values: Partial<Record<Metric, number>>): Partial<Record<Metric, number>> {
  for (const { key, least, most } of METRICS) {
    const value = values[key];
    if (value !== undefined && (!Number.isFinite(value) || value < least || (value > most && key !== "uptimeMin")))
      delete values[key];
  }
  return values;
}

/**
 * What an access point tells of its clients, as samples of the links to them from its end: a row is the customer on that access point
 * whose radio has that address, or that name. Rows that are nobody's in the plan, or could be two customers', are counted.
 */
export function clientSamples(
  world: World,
  nearRadioId: string,
  { atMs, clients }: Pick<SnmpReading, "atMs" | "clients">,
): { samples: Sample[]; strangers: number } {
  if (clients.length === 0) return { samples: [], strangers: 0 };
  const plain = (text: string) => text.trim().toLowerCase();
  // Two customers of one name cannot be told apart: null.
  const linkOf = new Map<string, string | null>();
  for (const { id, bRadioId } of linksOn(world, nearRadioId)) {
    const { address, name } = world.radios.get(bRadioId)!;
    for (const one of new Set([plain(name), plain(address)]))
      if (one !== "") linkOf.set(one, linkOf.has(one) ? null : id);
  }
  const samples: Sample[] = [];
  let strangers = 0;
  for (const { who, figures } of clients) {
    const linkId = linkOf.get(plain(who));
    if (!linkId) strangers++;
    else samples.push({ seriesId: endSeries(linkId, "a"), atMs, values: withinReason({ ...figures }) });
  }
  return { samples, strangers };
}
