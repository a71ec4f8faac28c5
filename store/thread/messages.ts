import type { MessagePort } from "node:worker_threads";

/** What the thread of the database is given to begin with: where its files lie, and what is unpacked into new ones. */
export interface Opening {
  directory: string;
  backup?: Uint8Array;
}
/** The same with the port on which the thread tells what was notified. */
export type Begin = Opening & { port: MessagePort };

/** What can be asked of the thread. Whoever asks numbers his transactions from 1; 0 stands for a question outside of any. */
export type Asked =
  | { kind: "query"; transaction: number; sql: string; parameters: unknown[] | undefined }
  | { kind: "exec"; transaction: number; sql: string }
  | { kind: "begin"; transaction: number; isSnapshot: boolean }
  | { kind: "commit" | "rollback"; transaction: number }
  | { kind: "listen" | "unlisten"; channel: string }
  | { kind: "notify"; channel: string; payload: string }
  | { kind: "dump" | "turn" | "close" };

/** A failure as it crosses threads: copying an error would drop the fields that a database puts on it. */
export interface Failure {
  message: string;
  fields: Record<string, unknown>;
}

/** What became of what was asked. */
export type Outcome = { value: unknown } | { failure: Failure };

/** What was notified on a channel that is listened to. */
export interface Heard {
  channel: string;
  payload: string;
}

export function failureOf(error: unknown): Failure {
  const { message, ...fields } =
    error instanceof Error ? { ...error, message: error.message } : { message: String(error) };
  // Some fields hold what cannot be copied to another thread; only plain ones are of use there.
  const plain = Object.entries(fields).filter(([, value]) => typeof value === "string" || typeof value === "number");
  return { message, fields: { ...Object.fromEntries(plain), ...(error instanceof Error && { name: error.name }) } };
}

export const errorOf = ({ message, fields }: Failure): Error => Object.assign(new Error(message), fields);
