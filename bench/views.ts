// Many paths at once: 500 subscribers as one site sees them, asked of the workers that the application asks.
import { once } from "node:events";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { largeSibling } from "#demo";
import { planContext, stopEngine } from "#engine";
import { askView, type ViewAnswers } from "#pool";
import { askPool, poolThreads, stopPool } from "#pool";
import { setPatch } from "#core/plan";
import { createPlan, openStore, packLayer, signedBy } from "#store";

const PATHS = 500;
const folder = mkdtempSync(join(tmpdir(), "tejado-bench-"));
const store = await openStore(folder);
const { rows, surface } = largeSibling();
const { layer, tiles } = packLayer(rows.plan.id, "ground", "bare", surface);
const subscribers = rows.subscribers.slice(0, PATHS);
const kept = new Set(subscribers.map(({ id }) => id));
const radios = rows.radios.filter(({ subscriberId }) => subscriberId === null || kept.has(subscriberId));
const known = new Set(radios.map(({ id }) => id));
const links = rows.links.filter(({ aRadioId, bRadioId }) => known.has(aRadioId) && known.has(bRadioId));
await createPlan(
  store.db,
  { ...rows, subscribers, radios, links, measurements: [], layers: [layer] },
  signedBy("bench"),
  "Began",
  { tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })), photos: [] },
);
const context = (await planContext(store, rows.plan.id))!;
const held = (await context.load()).rows;
const site = held.sites[0]!;
console.log(
  `${held.subscribers.length} subscribers, ${held.sites.length} sites, ${held.links.length} links, ${layer.columns} × ${layer.rows} cells\n`,
);

const times: number[] = [];
let answers: ViewAnswers | null = null;
for (let turn = 0; turn < 8; turn++) {
  // Each turn the plan is another one, as when an antenna is dragged: nothing is remembered from the turn before.
  const heightM = site.structureHeightM + turn;
  const patches = [setPatch("sites", site.id, { structureHeightM: heightM })];
  const start = performance.now();
  answers = await askView(context, patches, { kind: "fromSite", siteId: site.id, of: "subscribers" });
  times.push(performance.now() - start);
}
const [first, ...later] = times as [number, ...number[]];
const median = later.sort((x, y) => x - y)[later.length >> 1]!;
console.log(
  `first view of ${answers!.rows.length} paths, worker started and ground handed over   ${first.toFixed(0)} ms`,
);
console.log(
  `a later one, question to answer                                     ${median.toFixed(0)} ms (${later.map((ms) => ms.toFixed(0)).join(", ")})  bound 1000 ms: ${(1000 / median).toFixed(1)} times under`,
);

const linkId = held.links[0]?.id;
if (linkId) {
  const start = performance.now();
  const ask = { linkId, moveAM: 300, moveBM: 300, mastM: 8 };
  const { triedCount, ways } = (await askPool(context, [], { kind: "search", ask })).answer;
  console.log(
    `\na whole search for ways out                                         ${(performance.now() - start).toFixed(0)} ms: ${triedCount} changes tried, ${ways.length} ways out`,
  );
}
if (linkId) {
  // A search over much ground is stopped as soon as it tells how far it is: the time until whoever asked, and its worker, are free.
  const stop = new AbortController();
  let stopped = 0;
  let ended: Promise<unknown> = Promise.resolve();
  const progress = () => {
    if (stopped > 0) return;
    ended = Promise.race(poolThreads().map((thread) => once(thread, "exit")));
    stopped = performance.now();
    stop.abort();
  };
  const ask = { linkId, moveAM: 5000, moveBM: 5000, mastM: 30 };
  await askPool(context, [], { kind: "search", ask }, { signal: stop.signal, progress }).catch(() => undefined);
  await ended;
  const ms = performance.now() - stopped;
  console.log(
    `a stop                                                              ${ms.toFixed(0)} ms  bound 200 ms: ${stopped > 0 && ms <= 200 ? "within" : "MISSED"}`,
  );
}
await stopPool();
await stopEngine();
await store.close();
rmSync(folder, { recursive: true, force: true });
