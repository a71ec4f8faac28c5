import { once } from "node:events";
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

/** A watch over how long a server's /health waits. */
export class HealthWatch {
  private readonly worker: Worker;
  constructor(base: string) {
    this.worker = new Worker(ASKING, { eval: true, workerData: base });
  }
  /** The longest that an answer took since this was asked last, ms. */
  async worstMs(): Promise<number> {
    const told = once(this.worker, "message");
    this.worker.postMessage("tell");
    return ((await told) as [number])[0];
  }
  async end(): Promise<void> {
    await this.worker.terminate();
  }
}
