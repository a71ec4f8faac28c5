import { writeSync } from "node:fs";
import { MessageChannel } from "node:worker_threads";
import PQueue from "p-queue";
import { threadClient } from "../../threads";
import type { Db, Queries } from "../db";
import { errorOf, type Asked, type Begin, type Heard, type Opening, type Outcome } from "./messages";
import type { DatabaseTasks } from "./worker";

/** Memory that the database's thread may take besides the database's own, MB: a backup stands in it whole. */
const HEAP_MB = 1024;

const CLOSED = "the database is closed";

/**
 * The embedded database of a directory on a thread of its own, so that neither its work nor its waiting for the disk keeps
 * this one. `requireRoom` throws where nothing more should be written. A thread that ends unasked ends the process: what was
 * under way cannot be told to be kept or not. Throws what the opening threw.
 */
export async function threadDb(opening: Opening, requireRoom: () => void = () => undefined): Promise<Db> {
  const { port1: told, port2: port } = new MessageChannel();
  const ears = new Map<string, Set<(payload: string) => void>>();
  let transactions = 0;
  let isOpen = false;
  let isClosing = false;
  const thread = threadClient<DatabaseTasks>("database", {
    heapMB: HEAP_MB,
    workerData: { ...opening, port } satisfies Begin,
    transferList: [port],
    onEnd: (why) => {
      told.close();
      if (isOpen && !isClosing) endProcess(why);
    },
  });
  told.on("message", ({ channel, payload }: Heard) => {
    for (const heard of ears.get(channel) ?? []) heard(payload);
  });
  // The thread keeps the process alive only while somebody waits for an answer.
  told.unref();
  const ask = async (asked: Asked): Promise<unknown> => {
    if (isClosing) throw new Error(CLOSED);
    let outcome: Outcome;
    try {
      outcome = await thread.use((database) => database.ask(asked) as Promise<Outcome>);
    } catch (error) {
      throw isClosing ? new Error(CLOSED) : error;
    }
    if ("failure" in outcome) throw errorOf(outcome.failure);
    return outcome.value;
  };

  const queries = (transaction: number): Queries => ({
    query: async <T>(sql: string, parameters?: unknown[]) => ({
      rows: (await ask({ kind: "query", transaction, sql, parameters })) as T[],
    }),
    exec: async (sql) => (await ask({ kind: "exec", transaction, sql })) as Record<string, unknown>[],
  });
  const within = async <T>(isSnapshot: boolean, work: (tx: Queries) => Promise<T>): Promise<T> => {
    const transaction = ++transactions;
    await ask({ kind: "begin", transaction, isSnapshot });
    let result: T;
    try {
      result = await work(queries(transaction));
    } catch (error) {
      await ask({ kind: "rollback", transaction });
      throw error;
    }
    await ask({ kind: "commit", transaction });
    return result;
  };
  // The database does one thing after another. Of those who write one at a time is let through to it, so that whoever reads waits for that
  // one and not for all who came before.
  const writers = new PQueue({ concurrency: 1 });
  const stop = async () => {
    isClosing = true;
    await thread.stop();
  };

  try {
    await ask({ kind: "turn" });
    isOpen = true;
  } catch (error) {
    await stop();
    throw error;
  }
  return {
    ...queries(0),
    transaction: async (work) => {
      requireRoom();
      return writers.add(() => within(false, work));
    },
    snapshot: (work) => within(true, work),
    listen: async (channel, heard) => {
      const listeners = ears.get(channel) ?? new Set();
      ears.set(channel, listeners.add(heard));
      if (listeners.size === 1) await ask({ kind: "listen", channel });
      return async () => {
        listeners.delete(heard);
        if (listeners.size > 0 || isClosing) return;
        ears.delete(channel);
        await ask({ kind: "unlisten", channel });
      };
    },
    notify: async (channel, payload) => void (await ask({ kind: "notify", channel, payload })),
    dump: async () => (await ask({ kind: "dump" })) as Uint8Array,
    turns: async () => void (await ask({ kind: "turn" })),
    close: async () => {
      await ask({ kind: "close" });
      await stop();
    },
  };
}

function endProcess(why: string): never {
  writeSync(
    2,
    `The database of Tejado ended (${why}), and Tejado ends with it. What was acknowledged is kept; start it again.\n`,
  );
  process.exit(1);
}
