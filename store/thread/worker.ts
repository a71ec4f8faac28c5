// The thread of the embedded database: it computes and waits for the disk here, and whoever asks goes on meanwhile.
import { workerData } from "node:worker_threads";
import { transfer } from "comlink";
import { exposeTasks } from "../../threads";
import type { Queries } from "../db";
import { openDurable } from "../drivers/durable";
import { pgliteDb } from "../drivers/pglite";
import { failureOf, type Asked, type Begin, type Heard, type Outcome } from "./messages";

/** Thrown inside a transaction that is to be rolled back; nobody sees it. */
class RolledBack extends Error {}

interface Open {
  tx: Queries;
  end: (isKept: boolean) => void;
  /** Settled when the database has ended it. */
  ended: Promise<unknown>;
}

async function answering({ directory, backup, port }: Begin): Promise<(asked: Asked) => Promise<unknown>> {
  const loadDataDir = backup && new Blob([backup as Uint8Array<ArrayBuffer>]);
  const db = pgliteDb(await openDurable(directory, loadDataDir ? { loadDataDir } : {}));
  const transactions = new Map<number, Open>();
  const ears = new Map<string, () => Promise<void>>();

  const begin = (number: number, isSnapshot: boolean): Promise<void> =>
    new Promise((begun, failed) => {
      const ended = (isSnapshot ? db.snapshot : db.transaction)(
        (tx) =>
          new Promise<void>((keep, drop) => {
            const end = (isKept: boolean) => (isKept ? keep() : drop(new RolledBack()));
            transactions.set(number, { tx, end, ended });
            begun();
          }),
      );
      // Once it has begun, whoever ends it hears of its failure.
      ended.catch(failed);
    });
  const end = async (number: number, isKept: boolean): Promise<void> => {
    const open = transactions.get(number)!;
    transactions.delete(number);
    open.end(isKept);
    await open.ended.catch((error: unknown) => {
      if (!(error instanceof RolledBack)) throw error;
    });
  };
  const within = (number: number): Queries => (number === 0 ? db : transactions.get(number)!.tx);

  return async (asked) => {
    switch (asked.kind) {
      case "query":
        return (await within(asked.transaction).query(asked.sql, asked.parameters)).rows;
      case "exec":
        return within(asked.transaction).exec(asked.sql);
      case "begin":
        return begin(asked.transaction, asked.isSnapshot);
      case "commit":
      case "rollback":
        return end(asked.transaction, asked.kind === "commit");
      case "listen": {
        const { channel } = asked;
        ears.set(
          channel,
          await db.listen(channel, (payload) => port.postMessage({ channel, payload } satisfies Heard)),
        );
        return undefined;
      }
      case "unlisten":
        return ears.get(asked.channel)?.();
      case "notify":
        return db.notify(asked.channel, asked.payload);
      case "dump":
        return db.dump();
      case "turn":
        return undefined;
      case "close":
        return db.close();
    }
  };
}

const opening = answering(workerData as Begin);
// Whoever asks first hears of a failure to open.
opening.catch(() => undefined);

const database = {
  async ask(asked: Asked): Promise<Outcome> {
    try {
      const value = await (await opening)(asked);
      return asked.kind === "dump" ? transfer({ value }, [(value as Uint8Array).buffer as ArrayBuffer]) : { value };
    } catch (error) {
      return { failure: failureOf(error) };
    }
  },
};
export type DatabaseTasks = typeof database;

exposeTasks(database);
