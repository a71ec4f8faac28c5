// Who hurts whom in a plan of 10 000 customers on 60 sectors, asked of a real server the first time, pages served meanwhile. Run with
// `npm run bench`.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { largeSibling } from "#demo";
import { createPlan, openStore, packLayer, signedBy } from "#store";
import { startServer, stopServer } from "../e2e/startServer";
import { watchHealth } from "./health";
import { memoryMb } from "./memory";
import { print } from "./print";

const { rows, surface } = largeSibling(167);
const planId = rows.plan.id;
const directory = mkdtempSync(join(tmpdir(), "tejado-channels-"));

const { layer, tiles } = packLayer(planId, "ground", "bare", surface);
const store = await openStore(directory);
await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("bench"), "Began", {
  tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
  photos: [],
});
await store.close();
const server = await startServer([], directory);

try {
  // Whoever asks has the plan before him.
  await fetch(`${server.origin}/plans/${planId}/channels`).then((response) => response.text());
  let [isDone, most] = [false, 0];
  const health = await watchHealth(server.origin);
  const start = performance.now();
  const asked = fetch(`${server.origin}/plans/${planId}/views`, {
    method: "POST",
    headers: { "Content-Type": "application/json", Origin: server.origin },
    body: JSON.stringify({ ask: { kind: "hurts" }, patches: [] }),
  })
    .then((response) => response.json() as Promise<{ rows: unknown[] }>)
    .finally(() => (isDone = true));
  while (!isDone) {
    most = Math.max(most, memoryMb(server));
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const { rows: pairs } = await asked;
  console.log(
    `${rows.subscribers.length} customers, ${rows.links.length} links; ${pairs.length} pairs disturb each other\n`,
  );
  print("everybody's interference, the first time", (performance.now() - start) / 1000, "s", 20);
  print("server's memory at most", most, "MB", 1024);
  print("longest wait of /health meanwhile", (await health.end()).longestMs, "ms", 100);
} finally {
  await stopServer(server);
  rmSync(directory, { recursive: true, force: true });
}
