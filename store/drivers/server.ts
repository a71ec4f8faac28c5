import pg from "pg";
import type { Db, Queries } from "../db";

/** PostgreSQL's number for bigint, which this driver would hand over as text. */
const BIGINT = 20;
const RECONNECT_MS = 1000;

const types = {
  getTypeParser: (oid: number, format?: "text" | "binary") =>
    oid === BIGINT ? (text: string) => Number(text) : (pg.types.getTypeParser(oid, format as "text") as unknown),
} as pg.CustomTypesConfig;

const queries = (client: pg.Pool | pg.PoolClient): Queries => ({
  query: async <T>(sql: string, parameters?: unknown[]) => ({
    rows: (await client.query(sql, parameters)).rows as T[],
  }),
  exec: async (sql) => {
    const answers = (await client.query(sql)) as pg.QueryResult | pg.QueryResult[];
    return ((Array.isArray(answers) ? answers.at(-1) : answers)?.rows ?? []) as Record<string, unknown>[];
  },
});

/** A PostgreSQL server at an address. What it acknowledges is on its disk. */
export function serverDb(connectionString: string): Db {
  const settings: pg.PoolConfig = { connectionString, types, options: "-c synchronous_commit=on" };
  const pool = new pg.Pool(settings);
  // A connection that breaks while idle is made anew by the pool; the next question says whether the server is there.
  pool.on("error", () => undefined);
  const ears = new Set<{ stop: () => Promise<void> }>();
  const transaction = async <T>(begin: string, work: (tx: Queries) => Promise<T>): Promise<T> => {
    const client = await pool.connect();
    let broken: Error | undefined;
    try {
      await client.query(begin);
      const result = await work(queries(client));
      await client.query("COMMIT");
      return result;
    } catch (error) {
      await client.query("ROLLBACK").catch((failed: Error) => (broken = failed));
      throw error;
    } finally {
      client.release(broken);
    }
  };
  return {
    ...queries(pool),
    transaction: (work) => transaction("BEGIN", work),
    snapshot: (work) => transaction("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY", work),
    listen: async (channel, heard) => {
      const ear = await listenOn(settings, channel, heard);
      ears.add(ear);
      return async () => {
        ears.delete(ear);
        await ear.stop();
      };
    },
    notify: async (channel, payload) => void (await pool.query("SELECT pg_notify($1, $2)", [channel, payload])),
    dump: () => Promise.resolve(null),
    turns: () => Promise.resolve(),
    close: async () => {
      for (const ear of ears) await ear.stop();
      await pool.end();
    },
  };
}

/** Listens on a connection of its own, which is made anew when it breaks. */
async function listenOn(settings: pg.ClientConfig, channel: string, heard: (payload: string) => void) {
  let stopped = false;
  let client: pg.Client;
  const connect = async () => {
    client = new pg.Client(settings);
    client.on("notification", ({ payload }) => heard(payload ?? ""));
    client.on("error", () => {
      if (!stopped) setTimeout(() => void connect().catch(() => undefined), RECONNECT_MS).unref();
    });
    await client.connect();
    await client.query(`LISTEN ${pg.escapeIdentifier(channel)}`);
  };
  await connect();
  return {
    stop: async () => {
      stopped = true;
      await client.end();
    },
  };
}
