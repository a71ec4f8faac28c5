import { once } from "node:events";
import { readFileSync } from "node:fs";
import { Worker } from "node:worker_threads";

/** Asks /health over and over on a thread of its own, so that nothing the test does counts as waiting. */
const ASKING = `
const { get } = require("node:http");
const { parentPort, workerData } = require("node:worker_threads");
let worstMs = 0;
const ask = () => {
  const from = performance.now();
  const over = () => { worstMs = Math.max(worstMs, performance.now() - from); setTimeout(ask, 2); };
  get(workerData + "/health", { agent: false }, (answer) => answer.resume().once("end", over)).once("error", over);
};
parentPort.on("message", () => { parentPort.postMessage(worstMs); worstMs = 0; });
ask();
`;

/** Watches for how long a server's main thread keeps everybody waiting. */
export class HealthWatch {
  private readonly worker: Worker;
  private workedMs: number;
  constructor(
    base: string,
    private readonly pid: number,
  ) {
    this.worker = new Worker(ASKING, { eval: true, workerData: base });
    this.workedMs = this.mainThreadMs();
  }
  /** What the main thread has worked since it began, ms: Linux counts it, whatever else the machine does. */
  private mainThreadMs(): number {
    return Number(readFileSync(`/proc/${this.pid}/task/${this.pid}/schedstat`, "utf8").split(" ")[0]) / 1e6;
  }
  /**
   * The longest that the main thread can have kept /health waiting since this was asked last, ms. A wait longer than all that the thread
   * worked meanwhile is the machine's, not the server's.
   */
  async worstMs(): Promise<number> {
    const answer = once(this.worker, "message");
    this.worker.postMessage("tell");
    const [waitedMs] = (await answer) as [number];
    const before = this.workedMs;
    this.workedMs = this.mainThreadMs();
    return Math.min(waitedMs, this.workedMs - before);
  }
  async end(): Promise<void> {
    await this.worker.terminate();
  }
}
