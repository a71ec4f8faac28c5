// A plan of 10 000 customers whose devices report each minute, one by one, while people work on it: how long pages, changes and devices wait.
import { createHash, randomBytes } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Worker } from "node:worker_threads";
import { endSeries } from "#core/watch";
import { largeSibling } from "#demo";
import { watchSettings } from "#monitoring";
import { createPlan, openStore, packLayer, putToken, putWatchSettings, signedBy } from "#store";
import { startServer, stopServer } from "../e2e/startServer";
import { watchHealth } from "./health";
import { watchMemory } from "./memory";
import { print } from "./print";

const SECONDS = 60;
/** As many as links have far ends: each reports once in a minute. */
const A_SECOND = 10_000 / 60;

const directory = mkdtempSync(join(tmpdir(), "tejado-reporting-"));
const { rows, surface } = largeSibling(167);
const planId = rows.plan.id;
const { layer, tiles } = packLayer(planId, "ground", "bare", surface);
const token = randomBytes(24).toString("base64url");
const store = await openStore(directory);
await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("bench"), "Began", {
  tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
  photos: [],
});
await putWatchSettings(store.db, planId, { ...(await watchSettings(store, planId)), source: "devices" });
await putToken(store.db, planId, createHash("sha256").update(token).digest("hex"));
await store.close();

/** Devices, in a thread of their own: each sends what it measured, at its own second of the minute, however the last fared. */
const DEVICES = `
const { parentPort, workerData: { address, token, series, aSecond } } = require("node:worker_threads");
const waited = [];
let [sent, failed] = [0, 0];
const begun = performance.now();
const headers = { Authorization: "Bearer " + token, "Content-Type": "application/json" };
async function report(one, n) {
  const from = performance.now();
  const at = new Date().toISOString();
  const body = JSON.stringify([{ series: one, at, level0Dbm: -60 - (n % 9), noiseDbm: -92, rateMbps: 80, uptimeMin: n }]);
  const answer = await fetch(address, { method: "POST", headers, body }).catch(() => null);
  if (!answer?.ok || (await answer.json()).kept !== 1) failed++;
  waited.push(performance.now() - from);
}
const timer = setInterval(() => {
  const due = ((performance.now() - begun) / 1000) * aSecond;
  while (sent < due) report(series[sent % series.length], sent++);
}, 20);
parentPort.once("message", async () => {
  clearInterval(timer);
  while (waited.length < sent) await new Promise((resolve) => setTimeout(resolve, 50));
  waited.sort((x, y) => x - y);
  parentPort.postMessage({ sent, failed, mostMs: waited[Math.floor(0.95 * waited.length)] });
});
`;

const server = await startServer([], directory);
const at = `${server.origin}/plans/${planId}`;
const timed = async (work: () => Promise<unknown>): Promise<number> => {
  const start = performance.now();
  await work();
  return performance.now() - start;
};
try {
  await fetch(`${at}/since?revision=1&all=1`).then((response) => response.text());
  const series = rows.links.map(({ id }) => endSeries(id, "b"));
  const workerData = { address: `${at}/watch/samples`, token, series, aSecond: A_SECOND };
  const devices = new Worker(DEVICES, { eval: true, workerData });
  const [health, memory] = [await watchHealth(server.origin), watchMemory(server)];
  const [pages, changes]: [number[], number[]] = [[], []];
  let revision = 1;
  const note = async (turn: number) => {
    const patches = [{ kind: "sites", id: rows.sites[3]!.id, set: { notes: `wasps ${turn}` } }];
    const response = await fetch(`${at}/changes`, {
      method: "POST",
      headers: { "Content-Type": "application/json", Origin: server.origin },
      body: JSON.stringify({ intent: "keep", op: `bench-${turn}`, patches, what: "Bench" }),
    });
    const before = revision;
    ({ revision } = (await response.json()) as { revision: number });
    await fetch(`${at}/since?revision=${before}`).then((seen) => seen.text());
  };
  /** A page as a browser opens it: its frame, and the plan that is shown in it. */
  const page = async (stage: string) => {
    await fetch(`${at}/${stage}`).then((frame) => frame.text());
    await fetch(`${at}/window`).then((plan) => plan.text());
  };
  const until = performance.now() + SECONDS * 1000;
  for (let turn = 0; performance.now() < until; turn++) {
    pages.push(await timed(() => page(turn % 2 ? "paths" : "watch")));
    changes.push(await timed(() => note(turn)));
    await new Promise((resolve) => setTimeout(resolve, 1000));
  }
  const told = new Promise<{ sent: number; failed: number; mostMs: number }>((resolve) =>
    devices.once("message", resolve),
  );
  devices.postMessage("end");
  const { sent, failed, mostMs } = await told;
  await devices.terminate();
  console.log(`${sent} reports in ${SECONDS} s, ${pages.length} pages and as many changes beside them\n`);
  print("reports that were not kept", failed, "", 0);
  print("a report kept, 95 % under", mostMs, "ms", 1000);
  print("a page, longest", Math.max(...pages), "ms", 2000);
  // The first pages and notes of a server that is just compiled are among them, and so is its first look at the watch.
  const sorted = [...changes].sort((x, y) => x - y);
  print("a note on a site: kept and seen, 95 % under", sorted[Math.floor(0.95 * sorted.length)]!, "ms", 300);
  print("the same, longest", sorted.at(-1)!, "ms", 1000);
  const { mostMs: healthMs, longestMs } = await health.end();
  print("/health meanwhile, 95 % under", healthMs, "ms", 100);
  print("the same, longest", longestMs, "ms", 1000);
  print("server's memory at most", memory.end(), "MB", 1024);
} finally {
  await stopServer(server);
  rmSync(directory, { recursive: true, force: true });
}
