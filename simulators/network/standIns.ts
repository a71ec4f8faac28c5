import { createSocket } from "node:dgram";
import { AT, endSeries, UPTIME_OID, type Metric, type Side, type SnmpModel, type SnmpSettings } from "#core/watch";
import { startSnmpAgent, type SnmpAgent } from "../snmpAgent";
import { toldAt, type Memory, type SimulatedLink, type Told } from "./link";
import { report, type ReportsDoor } from "./reporting";

/** A device that is stood in for: its radio's links, each with the device at its other end as an access point's table names it. */
export interface StandInDevice {
  radioId: string;
  /** Whether it tells of each of its links in a table, as an access point does, or of its only one by itself. */
  hasTable: boolean;
  /** Whether it is asked by SNMP, or reports by itself and as what. */
  speaks: "snmp" | "json" | "csv";
  links: readonly { link: SimulatedLink; side: Side; who: string }[];
}

/** What stand-ins tell of themselves, and of each whom they serve; in hundredths, since objects are whole numbers. */
const OWN: readonly Metric[] = ["temperatureC", "supplyV", "airtimePercent"];
const OF_A_LINK: readonly Metric[] = ["level0Dbm", "level1Dbm", "noiseDbm", "rateMbps"];
const SCALE = 0.01;
/** An enterprise number that nobody holds. */
const ROOT = "1.3.6.1.4.1.99999.7";
const ownOid = (metric: Metric) => `${ROOT}.1.${AT[metric] + 1}.0`;
const ENTRY = `${ROOT}.2.1`;
const WHO_COLUMN = 2;
const columnOf = (metric: Metric) => WHO_COLUMN + 1 + OF_A_LINK.indexOf(metric);
const AIR_INTERFACE = 1;

/** What the objects of stand-ins mean, as a plan keeps it for each of its models. */
export function standInModel(radioModelId: string, hasTable: boolean): SnmpModel {
  const own = hasTable ? OWN : [...OWN, ...OF_A_LINK];
  return {
    radioModelId,
    airInterface: AIR_INTERFACE,
    objects: own.map((metric) => ({ metric, oid: ownOid(metric), scale: SCALE })),
    clients: hasTable
      ? {
          whoColumn: `${ENTRY}.${WHO_COLUMN}`,
          objects: OF_A_LINK.map((metric) => ({ metric, oid: `${ENTRY}.${columnOf(metric)}`, scale: SCALE })),
        }
      : null,
  };
}

/** How stand-ins are asked. */
export const STAND_IN_COMMUNITY = "stand-in";
export const standInSettings = (port: number): SnmpSettings => ({
  ...{
    isOn: true,
    version: "2c" as const,
    user: "",
    auth: "sha256" as const,
    privacy: "aes" as const,
    port,
    models: [],
  },
});

/** The stand-ins of a network on this machine. */
export interface StandIns {
  /** Has every device tell what it does at a moment, hours since 1970; one whose links are all silent answers nobody, and reports nothing. */
  tellAt: (hour: number) => Promise<void>;
  /** The port at which a device's stand-in is asked; null for one that reports by itself, or is no device. */
  portOf: (radioId: string) => number | null;
  stop: () => void;
}

/** A device at work. */
interface Running {
  device: StandInDevice;
  agent: SnmpAgent | null;
  port: number;
  /** What it has carried since its last start. */
  octets: { in: bigint; out: bigint };
  told: { hour: number; uptimeMin: number } | null;
}

/**
 * Starts a stand-in for each of some devices: it answers SNMP on a port of its own, at 127.0.0.1 alone, or reports at a door as JSON or
 * CSV. Without a door those that would report answer SNMP too.
 */
export function startStandIns(devices: readonly StandInDevice[], memory: Memory, door: ReportsDoor | null): StandIns {
  const reports = ({ device: { speaks } }: Running) => door !== null && speaks !== "snmp";
  const all = new Map<string, Running>(
    devices.map((device) => [
      device.radioId,
      { device, agent: null, port: 0, octets: { in: 0n, out: 0n }, told: null },
    ]),
  );
  const silence = (one: Running) => {
    one.agent?.stop();
    one.agent = null;
  };
  return {
    tellAt: async (hour) => {
      for (const one of all.values()) {
        if (reports(one)) continue;
        one.port ||= await freePort();
        const told = one.device.links.map(({ link, side }) => toldAt(link, side, hour, memory));
        if (told.every((figures) => figures === null)) silence(one);
        else await tell(one, told, hour);
      }
      for (const one of all.values()) if (door && reports(one)) await reportOf(one.device, hour, memory, door);
    },
    portOf: (radioId) => all.get(radioId)?.port || null,
    stop: () => all.forEach(silence),
  };
}

/** Stands in a table where a device does not tell a figure, such as the second chain of one that has one: beyond reason, so nobody keeps it. */
const NOT_TOLD = -1_000_000;
const hundredths = (value: number | undefined) => (value === undefined ? NOT_TOLD : Math.round(value / SCALE));

/** Reports what a device does at a moment, as far as it works. */
async function reportOf(
  { links, speaks }: StandInDevice,
  hour: number,
  memory: Memory,
  door: ReportsDoor,
): Promise<void> {
  const samples = links.flatMap(({ link, side }) => {
    const told = toldAt(link, side, hour, memory);
    return told
      ? [{ series: endSeries(link.linkId, side), at: new Date(hour * 3_600_000).toISOString(), ...told }]
      : [];
  });
  if (samples.length > 0) await report(samples, speaks === "csv" ? "csv" : "json", door);
}

async function tell(one: Running, told: readonly (Told | null)[], hour: number): Promise<void> {
  const { hasTable, links } = one.device;
  const awake = told.filter((figures) => figures !== null);
  const [first] = awake as [Told];
  const uptimeMin = Math.min(...awake.map((figures) => figures.uptimeMin ?? 0));
  if (one.told && uptimeMin < one.told.uptimeMin) one.octets = { in: 0n, out: 0n };
  else if (one.told) {
    const mbps = awake.reduce((sum, { throughputMbps = 0 }) => sum + throughputMbps, 0);
    const octets = BigInt(Math.round(((hour - one.told.hour) * 3600 * mbps * 1e6) / 8));
    // A fifth of what people carry goes up.
    one.octets.in += octets / 5n;
    one.octets.out += octets - octets / 5n;
  }
  one.told = { hour, uptimeMin };
  const own = hasTable ? OWN : [...OWN, ...OF_A_LINK];
  const objects = {
    [UPTIME_OID]: Math.round(uptimeMin * 6000),
    ...Object.fromEntries(own.filter((metric) => metric in first).map((m) => [ownOid(m), hundredths(first[m])])),
  };
  const rows = links.flatMap(({ who }, i) => {
    const figures = told[i];
    return figures ? [[who, ...OF_A_LINK.map((metric) => hundredths(figures[metric]))]] : [];
  });
  const counters = { index: AIR_INTERFACE, ...one.octets };
  one.agent ??= await startSnmpAgent({ port: one.port, community: STAND_IN_COMMUNITY, objects, counters });
  for (const [oid, value] of Object.entries(objects)) one.agent.tell(oid, value);
  one.agent.tellCounters(counters);
  if (hasTable) one.agent.tellTable({ entryOid: ENTRY, rows });
}

/** A port at which nobody on this machine listens. */
function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const socket = createSocket("udp4");
    socket.once("error", reject);
    socket.bind(0, "127.0.0.1", () => {
      const { port } = socket.address();
      socket.close(() => resolve(port));
    });
  });
}
