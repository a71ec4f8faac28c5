import snmp from "net-snmp";
import { speakDes } from "./des";
import {
  inOctetsOid,
  outOctetsOid,
  UPTIME_OID,
  type SnmpClient,
  type SnmpModel,
  type SnmpReading,
  type SnmpSettings,
} from "#core/watch";

speakDes();

/** How long a device may take to answer, ms, and how often it is asked again. */
const PATIENCE_MS = 2000;
const RETRIES = 1;

/** What opens a device: a community for version 2c; a password and a key for encryption for version 3. */
export interface SnmpSecrets {
  community: string;
  password: string;
  key: string;
}

type Session = ReturnType<typeof snmp.createSession>;

/** An object with its value and its SNMP type. */
interface Varbind {
  oid: string;
  type?: number;
  value: unknown;
}

function sessionOf(
  address: string,
  { version, user, port, auth, privacy }: SnmpSettings,
  { community, password, key }: SnmpSecrets,
): Session {
  const options = { port, retries: RETRIES, timeout: PATIENCE_MS, transport: address.includes(":") ? "udp6" : "udp4" };
  if (version === "2c") return snmp.createSession(address, community, { ...options, version: snmp.Version2c } as never);
  const who = {
    ...{ name: user, level: snmp.SecurityLevel.authPriv },
    ...{ authProtocol: snmp.AuthProtocols[auth], authKey: password },
    ...{ privProtocol: snmp.PrivProtocols[privacy], privKey: key },
  };
  return snmp.createV3Session(address, who as never, options as never);
}

/** The value of an object as a number by its SNMP type: a 64-bit counter comes as bytes, a text of figures as theirs; null where it is not a number. */
export function numberOf({ type, value }: { type?: number | undefined; value: unknown }): number | null {
  if (typeof value === "number") return value;
  if (typeof value === "bigint") return Number(value);
  if (Buffer.isBuffer(value)) {
    if (type === snmp.ObjectType.Counter64)
      return value.length <= 9 ? [...value].reduce((sum, byte) => sum * 256 + byte, 0) : null;
    const text = value.toString("latin1");
    return /^\s*-?\d+(\.\d+)?\s*$/.test(text) ? Number(text) : null;
  }
  return typeof value === "string" && value.trim() !== "" && Number.isFinite(Number(value)) ? Number(value) : null;
}

/** Rows of a table that are read at most, and how many are asked for at once. */
const MOST_ROWS = 2000;
const AT_ONCE = 20;

/** A column of a table by the numbers of its rows; what was read before it failed. */
function columnOf<T>(session: Session, column: string, read: (one: Varbind) => T | null): Promise<Map<string, T>> {
  const rows = new Map<string, T>();
  return new Promise((resolve) => {
    const feed = (varbinds: unknown) => {
      for (const one of varbinds as Varbind[]) {
        if (snmp.isVarbindError(one as never)) continue;
        const value = read(one);
        if (value !== null) rows.set(one.oid.slice(column.length + 1), value);
      }
      return rows.size >= MOST_ROWS;
    };
    session.subtree(column, AT_ONCE, feed as never, () => resolve(rows));
  });
}

/** Who a client is, as text: an address in four or six bytes is written as people write it. */
function whoOf({ value }: Varbind): string | null {
  if (!Buffer.isBuffer(value)) return typeof value === "string" ? value : null;
  const bytes = [...value];
  if (bytes.every((byte) => byte >= 32 && byte < 127)) return value.toString("latin1");
  if (bytes.length === 4) return bytes.join(".");
  return bytes.length === 6 ? bytes.map((byte) => byte.toString(16).padStart(2, "0")).join(":") : null;
}

async function clientsOf(
  session: Session,
  { whoColumn, objects }: NonNullable<SnmpModel["clients"]>,
): Promise<SnmpClient[]> {
  const who = await columnOf(session, whoColumn, whoOf);
  const columns: Map<string, number>[] = [];
  for (const { oid } of objects) columns.push(await columnOf(session, oid, numberOf));
  return [...who].map(([row, one]) => {
    const figures: SnmpClient["figures"] = {};
    objects.forEach(({ metric, scale }, i) => {
      const value = columns[i]!.get(row);
      if (value !== undefined) figures[metric] = value * scale;
    });
    return { who: one, figures };
  });
}

/** Asks one device for all that its model's objects say; null where it does not answer. */
export function askDevice(
  address: string,
  model: SnmpModel | undefined,
  settings: SnmpSettings,
  secrets: SnmpSecrets,
): Promise<SnmpReading | null> {
  const { airInterface = 0, objects = [] } = model ?? {};
  const counters = airInterface > 0 ? [inOctetsOid(airInterface), outOctetsOid(airInterface)] : [];
  const oids = [UPTIME_OID, ...counters, ...objects.map(({ oid }) => oid)];
  return new Promise((resolve) => {
    let session: Session;
    try {
      session = sessionOf(address, settings, secrets);
    } catch {
      return resolve(null);
    }
    let isOver = false;
    const end = (reading: SnmpReading | null) => {
      if (isOver) return;
      isOver = true;
      session.close();
      resolve(reading);
    };
    session.on("error", () => end(null));
    session.get(oids, (error, varbinds) => {
      if (error || !varbinds) return end(null);
      const at = new Map<string, number | null>();
      for (const one of varbinds as Varbind[])
        at.set(one.oid, snmp.isVarbindError(one as never) ? null : numberOf(one));
      const figures: SnmpReading["figures"] = {};
      for (const { metric, oid, scale } of objects) {
        const value = at.get(oid) ?? null;
        if (value !== null) figures[metric] = value * scale;
      }
      const reading: SnmpReading = {
        atMs: Date.now(),
        upHundredths: at.get(UPTIME_OID) ?? null,
        inOctets: counters[0] ? (at.get(counters[0]) ?? null) : null,
        outOctets: counters[1] ? (at.get(counters[1]) ?? null) : null,
        figures,
        clients: [],
      };
      if (!model?.clients) return end(reading);
      void clientsOf(session, model.clients).then((clients) => end({ ...reading, clients }));
    });
  });
}
