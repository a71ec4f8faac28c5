import snmp from "net-snmp";

/** What a stand-in says of its objects, by their OID; counters of 64 bits are told as bigint. */
export type SnmpObjects = Record<string, number | bigint>;

/** A table: columns 2, 3 … under an entry's OID, each row by its index; column 1 is the index. */
export interface SnmpTable {
  entryOid: string;
  rows: (number | string)[][];
}

interface AgentMib {
  registerProvider: (provider: object) => void;
  setScalarValue: (name: string, value: unknown) => void;
  addTableRow: (name: string, row: unknown[]) => void;
}

/**
 * A device that answers SNMP on a port of this machine: version 2c by its community, version 3 by its user. `tell` puts other figures in
 * place of those it says.
 */
export async function startSnmpAgent({
  port,
  community,
  user,
  objects,
  table,
}: {
  port: number;
  community: string;
  user?: { name: string; password: string; key: string };
  objects: SnmpObjects;
  table?: SnmpTable;
}): Promise<{ tell: (oid: string, value: number | bigint) => void; stop: () => void }> {
  const agent = snmp.createAgent({ port, address: "127.0.0.1", disableAuthorization: false }, () => undefined) as {
    getMib: () => AgentMib;
    getAuthorizer: () => { addCommunity: (name: string) => void; addUser: (user: object) => void };
    close: () => void;
  };
  agent.getAuthorizer().addCommunity(community);
  if (user)
    agent.getAuthorizer().addUser({
      ...{ name: user.name, level: snmp.SecurityLevel.authPriv },
      ...{ authProtocol: snmp.AuthProtocols.sha256, authKey: user.password },
      ...{ privProtocol: snmp.PrivProtocols.aes, privKey: user.key },
    });
  const mib = agent.getMib();
  const put = (oid: string, value: number | bigint) =>
    mib.setScalarValue(oid, typeof value === "bigint" ? bytesOf(value) : value);
  for (const [oid, value] of Object.entries(objects)) {
    // A scalar is registered without its last number, the instance.
    const name = oid;
    mib.registerProvider({
      ...{ name, type: 1, oid: oid.slice(0, oid.lastIndexOf(".")), maxAccess: 2 },
      scalarType: typeof value === "bigint" ? snmp.ObjectType.Counter64 : snmp.ObjectType.Integer,
    });
    put(oid, value);
  }
  if (table) {
    const { entryOid, rows } = table;
    const typeOf = (value: unknown) =>
      typeof value === "string" ? snmp.ObjectType.OctetString : snmp.ObjectType.Integer;
    mib.registerProvider({
      ...{ name: entryOid, type: 2, oid: entryOid, maxAccess: 0 },
      tableColumns: [0, ...(rows[0] ?? [])].map((value, i) => ({
        ...{ number: i + 1, name: `${entryOid} ${i + 1}`, type: typeOf(value), maxAccess: 2 },
      })),
      tableIndex: [{ columnName: `${entryOid} 1` }],
    });
    for (const [i, row] of rows.entries()) mib.addTableRow(entryOid, [i + 1, ...row]);
  }
  await new Promise((resolve) => setTimeout(resolve, 50));
  return { tell: put, stop: () => agent.close() };
}

function bytesOf(value: bigint): Buffer {
  const bytes = Buffer.alloc(8);
  bytes.writeBigUInt64BE(value);
  return bytes;
}
