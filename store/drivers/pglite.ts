import type { PGlite, Transaction } from "@electric-sql/pglite";
import type { Db, Queries } from "../db";

/** How often the log is looked at, and how much of it calls for a checkpoint: at rest, and however busy it is. */
const LOOK_MS = 5000;
const REST_BYTES = 4 * 1024 * 1024;
const MOST_BYTES = 64 * 1024 * 1024;

const queries = (tx: PGlite | Transaction): Queries => ({
  query: (sql, parameters) => tx.query(sql, parameters),
  exec: async (sql) => (await tx.exec(sql)).at(-1)?.rows ?? [],
});

/**
 * The embedded database. It never writes its log back by itself, so checkpoints are asked for when nothing was written for a
 * while and when the log has grown.
 */
export function pgliteDb(pglite: PGlite): Db {
  let writes = 0;
  let seen = 0;
  let closed = false;
  let checkedAt: string | null = null;
  const checkpointWhenGrown = async () => {
    if (closed || writes === 0) return;
    const { rows } = await pglite.query<{ lsn: string; grown: number }>(
      "SELECT pg_current_wal_lsn()::text AS lsn, pg_wal_lsn_diff(pg_current_wal_lsn(), $1::pg_lsn)::float8 AS grown",
      [checkedAt ?? "0/0"],
    );
    const { lsn, grown } = rows[0]!;
    const atRest = writes === seen;
    seen = writes;
    if (checkedAt !== null && grown < (atRest ? REST_BYTES : MOST_BYTES)) return;
    await pglite.exec("CHECKPOINT");
    checkedAt = lsn;
  };
  // A failed look shows with the next change; the timer keeps nobody's process alive.
  const timer = setInterval(() => void checkpointWhenGrown().catch(() => undefined), LOOK_MS).unref();
  return {
    ...queries(pglite),
    transaction: (work) => {
      writes++;
      return pglite.transaction((tx) => work(queries(tx)));
    },
    snapshot: (work) =>
      pglite.transaction(async (tx) => {
        await tx.exec("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY");
        return work(queries(tx));
      }),
    listen: async (channel, heard) => pglite.listen(channel, heard),
    notify: async (channel, payload) => void (await pglite.query("SELECT pg_notify($1, $2)", [channel, payload])),
    dump: async () => new Uint8Array(await (await pglite.dumpDataDir("gzip")).arrayBuffer()),
    turns: () => Promise.resolve(),
    close: async () => {
      closed = true;
      clearInterval(timer);
      await pglite.close();
    },
  };
}
