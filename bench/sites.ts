// Where to build in a plan of 10 000 customers, through a real server: every path within reach in one job, pages served meanwhile, the
// choice's gap. Run with `npm run bench`.
import { mkdtempSync, rmSync } from "node:fs";
import { availableParallelism, tmpdir } from "node:os";
import { join } from "node:path";
import { inverseGeodesic } from "#core/geodesy";
import { answerLink } from "#core/link";
import { linkEnds, worldOf } from "#core/plan";
import { plainTerrain, profileScratch, sampleProfile } from "#core/terrain";
import { largeSibling } from "#demo";
import type { JobView, SitesResult } from "#jobs";
import { createPlan, openStore, packLayer, signedBy } from "#store";
import { startServer, stopServer } from "../e2e/startServer";
import { watchHealth } from "./health";
import { memoryMb } from "./memory";
import { print } from "./print";

const REACH_KM = 12;
const { rows, surface } = largeSibling(167);
const planId = rows.plan.id;
const directory = mkdtempSync(join(tmpdir(), "tejado-sites-"));

/** Full path answers a second on one thread, each over a profile of its own: what a bench measures with nothing round it. */
function answersPerSecond(): number {
  const world = worldOf(rows);
  const terrain = plainTerrain(surface);
  const scratch = profileScratch();
  const links = [...world.links.values()].filter(({ kind }) => kind === "access");
  const ends = links.map((link) => ({ link, ...linkEnds(world, link) }));
  const sites = [...world.sites.values()];
  let [looked, count] = [0, 0];
  const start = performance.now();
  while (performance.now() - start < 4000)
    for (let i = 0; i < 200; i++) {
      const { link, a, b } = ends[(looked * 37) % ends.length]!;
      const site = sites[looked++ % sites.length]!;
      if (inverseGeodesic(site, b.place).distanceM > REACH_KM * 1000) continue;
      count++;
      const { kind, foliageDepthM } = link;
      const profile = sampleProfile(terrain, site, b.place, undefined, scratch);
      answerLink({ plan: world.plan, kind, foliageDepthM, a: { ...a, place: site }, b, profile });
    }
  return (count * 1000) / (performance.now() - start);
}
const before = answersPerSecond();

const { layer, tiles } = packLayer(planId, "ground", "bare", surface);
const store = await openStore(directory);
await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("bench"), "Began", {
  tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
  photos: [],
});
await store.close();
const server = await startServer([], directory);
const at = `${server.origin}/plans/${planId}`;
const begin = async (seconds: number) => {
  const ask = {
    ...{ kind: "sites", whom: "everybody", share: 0.9, withNewMasts: true, powerM: null, joinKm: 25, seconds },
    styles: [{ reachKm: REACH_KM, mastM: 15, mastEur: 3000 }],
  };
  const body = JSON.stringify({ ask, patches: [] });
  const response = await fetch(`${at}/searches`, {
    method: "POST",
    headers: { "Content-Type": "application/json", Origin: server.origin },
    body,
  });
  return (await response.json()) as JobView;
};
const jobNow = async (id: string) => (await (await fetch(`${at}/jobs/${id}`)).json()) as JobView;

try {
  const job = await begin(60);
  // As often as a person's pages ask, so that asking itself takes next to nothing from the job.
  const health = await watchHealth(server.origin, 100);
  let [looked, seenFrom, seenTo, most] = [0, 0, 0, 0];
  let now = job;
  while (now.state === "running") {
    await new Promise((resolve) => setTimeout(resolve, 250));
    now = await jobNow(job.id);
    most = Math.max(most, memoryMb(server));
    const candidates = /(\d+) of (\d+) candidates/.exec(now.message);
    if (!candidates) continue;
    if (seenFrom === 0) [seenFrom, looked] = [performance.now(), Number(candidates[1])];
    if (Number(candidates[1]) < Number(candidates[2])) seenTo = performance.now();
  }
  const { styles } = (await (await fetch(`${server.origin}${now.resultUrl!}`)).json()) as SitesResult;
  const [style] = styles;
  const paths = rows.sites.reduce(
    (sum, site) =>
      sum + rows.subscribers.filter((one) => inverseGeodesic(site, one).distanceM <= REACH_KM * 1000).length,
    0,
  );
  // Candidates on high ground reach as many as the plan's own sites do, on average.
  const each = paths / rows.sites.length;
  const seconds = (seenTo - seenFrom) / 1000;
  const perSecond = ((style!.candidates - looked - 1) * each) / seconds;
  // The machine's pace changes: measured on both sides of the job.
  const after = answersPerSecond();
  const alone = (before + after) / 2;
  console.log(`${style!.candidates} candidates, ${each.toFixed(0)} paths within ${REACH_KM} km of each\n`);
  console.log(
    `full path answers, one thread   ${before.toFixed(0)}/s before the job, ${after.toFixed(0)}/s after it; the job ${perSecond.toFixed(0)}/s`,
  );
  print(
    "the job's paths against answers a second times cores",
    perSecond / (alone * availableParallelism()),
    "",
    0.9,
    true,
  );
  print("server's memory at most", most, "MB", 1024);
  print("longest wait of /health meanwhile", (await health.end()).longestMs, "ms", 100);
  print("gap of the choice", (100 * (style!.costEur - style!.lowerBoundEur)) / style!.costEur, "%", 3);
  const again = await begin(60);
  await new Promise((resolve) => setTimeout(resolve, 4000));
  const asked = performance.now();
  await fetch(`${at}/jobs/${again.id}`, { method: "POST", headers: { Origin: server.origin } });
  while ((await jobNow(again.id)).state === "running") await new Promise((resolve) => setTimeout(resolve, 5));
  print("a stop", performance.now() - asked, "ms", 200);
} finally {
  await stopServer(server);
  rmSync(directory, { recursive: true, force: true });
}
