import { Worker } from "node:worker_threads";

/** Asks for /health all the time from a thread of its own: what keeps the bench itself busy is not counted as the server's. */
const WATCHER = `
const { parentPort, workerData: { origin, pauseMs } } = require("node:worker_threads");
let isOver = false;
const waited = [];
parentPort.once("message", () => (isOver = true));
(async () => {
  // The first question opens the connection.
  await (await fetch(origin + "/health")).text();
  while (!isOver) {
    const start = performance.now();
    await (await fetch(origin + "/health")).text();
    waited.push(performance.now() - start);
    await new Promise((resolve) => setTimeout(resolve, pauseMs));
  }
  waited.sort((x, y) => x - y);
  const [asked, mostMs] = [waited.length, waited[Math.floor(0.95 * waited.length)]];
  parentPort.postMessage({ longestMs: waited.at(-1), mostMs, asked });
})();
`;

export interface Watched {
  longestMs: number;
  /** Under which 95 % of the answers came. */
  mostMs: number;
  asked: number;
}

/** Watches how long a server lets its visitors wait, from now until `end`. */
export async function watchHealth(origin: string, pauseMs = 20): Promise<{ end: () => Promise<Watched> }> {
  const worker = new Worker(WATCHER, { eval: true, workerData: { origin, pauseMs } });
  await new Promise((resolve) => worker.once("online", resolve));
  return {
    end: async () => {
      const watched = new Promise<Watched>((resolve) => worker.once("message", resolve));
      worker.postMessage("end");
      const found = await watched;
      await worker.terminate();
      return found;
    },
  };
}
