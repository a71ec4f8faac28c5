import snmp from "net-snmp";

/** What a stand-in says of its objects, by their OID. */
export type SnmpObjects = Record<string, number>;

/** Octets that one of its interfaces took in and gave out, by its index. */
export interface SnmpCounters {
  index: number;
  in: bigint;
  out: bigint;
}

/** A table: columns 2, 3 … under an entry's OID, each row by its index; column 1 is the index. */
export interface SnmpTable {
  entryOid: string;
  rows: (number | string)[][];
}

interface AgentMib {
  registerProvider: (provider: object) => void;
  setScalarValue: (name: string, value: unknown) => void;
  unregisterProvider: (name: string) => void;
  addTableRow: (name: string, row: unknown[]) => void;
  setTableSingleCell: (name: string, column: number, row: unknown[], value: unknown) => void;
}

/** A device that answers. */
export interface SnmpAgent {
  /** Puts another figure in an object's place. */
  tell: (oid: string, value: number) => void;
  tellCounters: (counters: SnmpCounters) => void;
  /** Puts a table in the place of what stood under its entry. */
  tellTable: (table: SnmpTable) => void;
  stop: () => void;
}

/** A device that answers SNMP on a port of this machine: version 2c by its community, version 3 by its user. */
export async function startSnmpAgent({
  port,
  community,
  user,
  objects,
  counters,
  table,
}: {
  port: number;
  community: string;
  user?: {
    name: string;
    password: string;
    key: string;
    auth?: "md5" | "sha" | "sha256";
    privacy?: "des" | "aes" | "aes256r";
  };
  objects: SnmpObjects;
  counters?: SnmpCounters;
  table?: SnmpTable;
}): Promise<SnmpAgent> {
  const agent = snmp.createAgent({ port, address: "127.0.0.1", disableAuthorization: false }, () => undefined) as {
    getMib: () => AgentMib;
    getAuthorizer: () => { addCommunity: (name: string) => void; addUser: (user: object) => void };
    close: () => void;
  };
  agent.getAuthorizer().addCommunity(community);
  if (user)
    agent.getAuthorizer().addUser({
      ...{ name: user.name, level: snmp.SecurityLevel.authPriv },
      ...{ authProtocol: snmp.AuthProtocols[user.auth ?? "sha256"], authKey: user.password },
      ...{ privProtocol: snmp.PrivProtocols[user.privacy ?? "aes"], privKey: user.key },
    });
  const mib = agent.getMib();
  const tell = (oid: string, value: number) => mib.setScalarValue(oid, value);
  for (const [oid, value] of Object.entries(objects)) {
    // A scalar is registered without its last number, the instance.
    const name = oid;
    mib.registerProvider({
      ...{ name, type: 1, oid: oid.slice(0, oid.lastIndexOf(".")), maxAccess: 2 },
      scalarType: snmp.ObjectType.Integer,
    });
    tell(oid, value);
  }
  if (counters) {
    // Columns 6 and 10 of the standard's table of interfaces; a row has its index in front.
    mib.registerProvider({
      ...{ name: INTERFACES, type: 2, oid: INTERFACES_OID, maxAccess: 0 },
      tableColumns: [
        { number: 1, name: "index", type: snmp.ObjectType.Integer, maxAccess: 2 },
        { number: IN_COLUMN, name: "in", type: snmp.ObjectType.Counter64, maxAccess: 2 },
        { number: OUT_COLUMN, name: "out", type: snmp.ObjectType.Counter64, maxAccess: 2 },
      ],
      tableIndex: [{ columnName: "index" }],
    });
    mib.addTableRow(INTERFACES, [counters.index, bytesOf(counters.in), bytesOf(counters.out)]);
  }
  const tellCounters = ({ index, in: taken, out }: SnmpCounters) => {
    mib.setTableSingleCell(INTERFACES, IN_COLUMN, [index], bytesOf(taken));
    mib.setTableSingleCell(INTERFACES, OUT_COLUMN, [index], bytesOf(out));
  };
  const laid = new Set<string>();
  const tellTable = ({ entryOid, rows }: SnmpTable) => {
    if (laid.delete(entryOid)) mib.unregisterProvider(entryOid);
    if (rows.length === 0) return;
    laid.add(entryOid);
    const typeOf = (value: unknown) =>
      typeof value === "string" ? snmp.ObjectType.OctetString : snmp.ObjectType.Integer;
    mib.registerProvider({
      ...{ name: entryOid, type: 2, oid: entryOid, maxAccess: 0 },
      tableColumns: [0, ...rows[0]!].map((value, i) => ({
        ...{ number: i + 1, name: `${entryOid} ${i + 1}`, type: typeOf(value), maxAccess: 2 },
      })),
      tableIndex: [{ columnName: `${entryOid} 1` }],
    });
    for (const [i, row] of rows.entries()) mib.addTableRow(entryOid, [i + 1, ...row]);
  };
  if (table) tellTable(table);
  await new Promise((resolve) => setTimeout(resolve, 50));
  return { tell, tellCounters, tellTable, stop: () => agent.close() };
}

/** Octets by interface as the standard has them (RFC 2863). */
const INTERFACES = "interfaces";
const INTERFACES_OID = "1.3.6.1.2.1.31.1.1.1";
const IN_COLUMN = 6;
const OUT_COLUMN = 10;

function bytesOf(value: bigint): Buffer {
  const bytes = Buffer.alloc(8);
  bytes.writeBigUInt64BE(value);
  return bytes;
}
