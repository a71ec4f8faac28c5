import type PgBoss from "pg-boss";
import { dropOldJobs, orphanedJobs, type Queries, type Store } from "#store";

/** The one queue: pg-boss says whose turn it is, each job under the id that it has in the store. */
const QUEUE = "work";
/** A job may be begun so often: one that was at work when its process died is tried once more, alone, and then given up. */
export const MOST_TRIES = 2;
/** How long the process of a running job may say nothing before another takes it over, s. */
const SILENT_SECONDS = 30;
const KEPT_DAYS = 30;

/** pg-boss over the store's own database. Texts without values may be several statements. */
const bossDb = (queries: () => Queries): PgBoss.Db => ({
  executeSql: async (text, values) => {
    if (!values || values.length === 0) return { rows: await queries().exec(text) };
    return queries().query(text, values);
  },
});

/** Whether a store has the queue's tables already: making them takes a while in which nobody else is served. */
export async function hasQueue(store: Store): Promise<boolean> {
  const { rows } = await store.db.query<{ known: boolean }>("SELECT to_regnamespace('pgboss') IS NOT NULL AS known");
  return rows[0]!.known;
}

export interface Queue {
  /** Puts a job into the queue, in the transaction that writes its row. */
  put: (tx: Queries, id: string) => Promise<void>;
  /** The id of the job whose turn it is; null where none waits. */
  next: () => Promise<string | null>;
  done: (id: string) => Promise<void>;
  /** Puts jobs back whose process has died. */
  recover: (isStart: boolean) => Promise<void>;
  close: () => Promise<void>;
}

export async function openQueue(store: Store): Promise<Queue> {
  // With the first page nobody needs a queue: it is loaded when work begins.
  const { default: Boss } = await import("pg-boss");
  const boss = new Boss({ db: bossDb(() => store.db), supervise: false, schedule: false });
  // What goes wrong here shows with the question that was asked.
  boss.on("error", () => undefined);
  await boss.start();
  await boss.createQueue(QUEUE, { name: QUEUE, retryLimit: MOST_TRIES + 1 });
  return {
    put: async (tx, id) => void (await boss.send(QUEUE, {}, { id, retryLimit: MOST_TRIES + 1, db: bossDb(() => tx) })),
    next: async () => (await boss.fetch(QUEUE))[0]?.id ?? null,
    done: async (id) => void (await boss.complete(QUEUE, id)),
    recover: async (isStart) => {
      // A directory has one process: whatever runs when it begins runs nowhere.
      const ids = await orphanedJobs(store.db, isStart && !store.isOnServer ? 0 : SILENT_SECONDS);
      if (ids.length > 0)
        await store.db.query(
          "UPDATE pgboss.job SET state = 'retry', start_after = now() WHERE name = $1 AND state = 'active' AND id::text = ANY($2)",
          [QUEUE, ids],
        );
      if (isStart) {
        await dropOldJobs(store.db, KEPT_DAYS);
        await store.db.query("DELETE FROM pgboss.job WHERE name = $1 AND state > 'active'", [QUEUE]);
      }
    },
    close: () => boss.stop({ graceful: false, close: false }),
  };
}
