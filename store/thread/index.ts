import { writeSync } from "node:fs";
import PQueue from "p-queue";
import { startThread } from "../../threads";
import type { Db, Queries } from "../db";
import { errorOf, type Asked, type Opening, type Question, type Said } from "./messages";

/** Memory that the database's thread may take besides the database's own, MB: a backup stands in it whole. */
const HEAP_MB = 1024;

const CLOSED = "the database is closed";

interface Waiting {
  resolve: (value: unknown) => void;
  reject: (error: Error) => void;
}

/**
 * The embedded database of a directory on a thread of its own, so that neither its work nor its waiting for the disk keeps
 * this one. `requireRoom` throws where nothing more should be written. A thread that ends unasked ends the process: what was
 * under way cannot be told to be kept or not. Throws what the opening threw.
 */
export async function threadDb(opening: Opening, requireRoom: () => void = () => undefined): Promise<Db> {
  const thread = startThread("database", HEAP_MB, opening);
  const waiting = new Map<number, Waiting>();
  const ears = new Map<string, Set<(payload: string) => void>>();
  let asks = 0;
  let transactions = 0;
  let isOpen = false;
  let isClosing = false;

  /** Waits for an answer; the thread keeps the process alive only while somebody does. */
  const answered = (id: number) =>
    new Promise<unknown>((resolve, reject) => {
      waiting.set(id, { resolve, reject });
      thread.ref();
    });
  const ask = (asked: Asked): Promise<unknown> => {
    if (isClosing) return Promise.reject(new Error(CLOSED));
    const id = ++asks;
    const answer = answered(id);
    thread.postMessage({ id, asked } satisfies Question);
    return answer;
  };
  const opened = answered(0);
  thread.on("message", (said: Said) => {
    if (said.kind === "heard") {
      for (const heard of ears.get(said.channel) ?? []) heard(said.payload);
      return;
    }
    const asker = waiting.get(said.id);
    waiting.delete(said.id);
    if (waiting.size === 0) thread.unref();
    if (said.kind === "answer") asker?.resolve(said.value);
    else asker?.reject(errorOf(said.failure));
  });
  const broke = (why: string) => {
    if (isOpen) endProcess(why);
    waiting.get(0)?.reject(new Error(why));
  };
  thread.on("error", (error: Error) => broke(error.message));
  const over = new Promise<void>((resolve) =>
    thread.on("exit", (code) => {
      if (!isClosing) broke(`it ended with ${code}`);
      for (const { reject } of waiting.values()) reject(new Error(CLOSED));
      resolve();
    }),
  );

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
    await thread.terminate();
    await over;
  };

  try {
    await opened;
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
