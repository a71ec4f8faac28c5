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
/** Jobs, with what the machine can do measured between them: its pace changes by the minute. */
const ROUNDS = 3;
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
let before = answersPerSecond();

const { layer, tiles } = packLayer(planId, "ground", "bare", surface);
const store = await openStore(directory);
await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("bench"), "Began", {
  tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
  photos: [],
});
await store.close();
const server = await startServer([], directory);
const median = (values: number[]) => [...values].sort((x, y) => x - y)[values.length >> 1]!;
let [mostMb, longestMs] = [0, 0];
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

/** Follows a job to its end, or until all candidates are looked at: how many it looked at a second, and what it is then. */
async function follow(job: JobView, toItsEnd: boolean): Promise<{ candidatesPerSecond: number; now: JobView }> {
  let [looked, seenFrom, seenTo, lookedAtLast] = [0, 0, 0, 0];
  for (let now = job; ; now = await jobNow(job.id)) {
    mostMb = Math.max(mostMb, memoryMb(server));
    const [, done, of] = /(\d+) of (\d+) candidates/.exec(now.message) ?? [];
    const isLooking = done !== undefined && Number(done) < Number(of);
    if (isLooking && seenFrom === 0) [seenFrom, looked] = [performance.now(), Number(done)];
    if (isLooking) [seenTo, lookedAtLast] = [performance.now(), Number(done)];
    if (now.state !== "running" || (!toItsEnd && seenFrom > 0 && !isLooking))
      return { candidatesPerSecond: ((lookedAtLast - looked) * 1000) / (seenTo - seenFrom), now };
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
}
const stop = (id: string) => fetch(`${at}/jobs/${id}`, { method: "POST", headers: { Origin: server.origin } });

try {
  // Candidates on high ground reach as many as the plan's own sites do, on average.
  const reached = (site: (typeof rows.sites)[number]) =>
    rows.subscribers.filter((one) => inverseGeodesic(site, one).distanceM <= REACH_KM * 1000).length;
  const each = rows.sites.reduce((sum, site) => sum + reached(site), 0) / rows.sites.length;
  console.log(`${each.toFixed(0)} paths within ${REACH_KM} km of each candidate, on average\n`);
  const ratios: number[] = [];
  let style: SitesResult["styles"][number] | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    const job = await begin(60);
    // As often as a person's pages ask, so that asking itself takes next to nothing from the job.
    const health = await watchHealth(server.origin, 100);
    const { candidatesPerSecond, now } = await follow(job, round === 0);
    longestMs = Math.max(longestMs, (await health.end()).longestMs);
    if (round === 0)
      style = ((await (await fetch(`${server.origin}${now.resultUrl!}`)).json()) as SitesResult).styles[0];
    else await stop(job.id);
    while ((await jobNow(job.id)).state === "running") await new Promise((resolve) => setTimeout(resolve, 50));
    // The machine's pace changes: measured on both sides of the job.
    const after = answersPerSecond();
    const perSecond = candidatesPerSecond * each;
    ratios.push(perSecond / (((before + after) / 2) * availableParallelism()));
    console.log(
      `full path answers, one thread   ${before.toFixed(0)}/s before the job, ${after.toFixed(0)}/s after it; ` +
        `the job ${perSecond.toFixed(0)}/s, ${ratios.at(-1)!.toFixed(2)} of it times cores`,
    );
    before = after;
  }
  print("the job's paths against answers a second times cores, median", median(ratios), "", 0.9, true);
  print("server's memory at most", mostMb, "MB", 1024);
  print("longest wait of /health meanwhile", longestMs, "ms", 100);
  print("gap of the choice", (100 * (style!.costEur - style!.lowerBoundEur)) / style!.costEur, "%", 3);
  const again = await begin(60);
  await new Promise((resolve) => setTimeout(resolve, 4000));
  const asked = performance.now();
  await stop(again.id);
  while ((await jobNow(again.id)).state === "running") await new Promise((resolve) => setTimeout(resolve, 5));
  print("a stop", performance.now() - asked, "ms", 200);
} finally {
  await stopServer(server);
  rmSync(directory, { recursive: true, force: true });
}
