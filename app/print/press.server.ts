import PQueue from "p-queue";
import { data } from "react-router";
import { threadClient, ThreadEnded } from "../../threads";
import type { DocumentGiven, DocumentName } from "./documents";
import type { Press } from "./worker";

const HEAP_MB = 700;
/** A file that takes longer is given up. */
const LONGEST_MS = 60_000;
/** How long a press that nobody uses is kept: its packages and fonts take memory. */
const IDLE_MS = 60_000;

const press = threadClient<Press>("print", { heapMB: HEAP_MB, idleMs: IDLE_MS });
/** One document at a time: two would only wait for each other, and hold twice the memory. */
const queue = new PQueue({ concurrency: 1 });

/**
 * A document as the bytes of its PDF, set beside the serving thread; what it is given must be plain data. Throws a refusal in words
 * where the press breaks down, or takes longer than a reader waits.
 */
export function printed<N extends DocumentName>(name: N, given: DocumentGiven<N>): Promise<Uint8Array<ArrayBuffer>> {
  return queue.add(async () => {
    try {
      return await press.use(({ print }) => print(name, given) as Promise<Uint8Array<ArrayBuffer>>, {
        mostMs: LONGEST_MS,
      });
    } catch (error) {
      if (!(error instanceof ThreadEnded)) throw error;
      const why = error.isLate
        ? `It was not set within ${LONGEST_MS / 1000} seconds.`
        : "The thread that sets pages broke down.";
      throw data(`This file could not be printed. ${why} Ask for it again, or for fewer things at once.`, {
        status: 503,
      });
    }
  });
}
