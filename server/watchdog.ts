import { Worker } from "node:worker_threads";

/** How long the serving thread may say nothing before the process is taken to hang for good, ms. */
const LONGEST_SILENCE_MS = 120_000;
const BEAT_MS = 1000;

/** Runs beside the serving thread and ends the process when that has stopped answering: whoever started it can start it again. */
const WATCHER = `
const { workerData: { beat, silenceMs, beatMs } } = require("node:worker_threads");
const { writeSync } = require("node:fs");
let seen = -1;
let since = Date.now();
setInterval(() => {
  const now = Atomics.load(beat, 0);
  if (now !== seen) { seen = now; since = Date.now(); return; }
  if (Date.now() - since < silenceMs) return;
  writeSync(2, "Tejado has not answered itself for " + Math.round(silenceMs / 1000) + " s and ends here. What was acknowledged is kept; start it again.\\n");
  process.kill(process.pid, "SIGKILL");
}, beatMs);
`;

/**
 * Ends this process if its thread stops turning, or if `alive` does not settle any more: a database that spins for ever. Gives
 * what stops the watch.
 */
export function watchOverItself(
  alive: () => Promise<void> = () => Promise.resolve(),
  silenceMs = LONGEST_SILENCE_MS,
): () => Promise<void> {
  const beat = new Int32Array(new SharedArrayBuffer(4));
  const beatMs = Math.min(BEAT_MS, silenceMs / 4);
  let isAsking = false;
  const ask = async () => {
    if (isAsking) return;
    isAsking = true;
    // A failure is an answer too.
    await alive().catch(() => undefined);
    isAsking = false;
    Atomics.add(beat, 0, 1);
  };
  const timer = setInterval(() => void ask(), beatMs).unref();
  const watcher = new Worker(WATCHER, { eval: true, workerData: { beat, silenceMs, beatMs } });
  watcher.unref();
  return async () => {
    clearInterval(timer);
    await watcher.terminate();
  };
}
