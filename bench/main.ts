import { answerLink } from "#core/link";
import { linkEnds, worldOf } from "#core/plan";
import { groundAt, plainTerrain, sampleProfile } from "#core/terrain";
import { reviewPlan } from "#core/findings";
import { demoPlan, islandSurface } from "#demo";

/** Median, 5th and 95th percentile of `runs` timings of `work`, ms, after a warm-up. */
function time(work: () => unknown, runs: number): { median: number; low: number; high: number } {
  for (let i = 0; i < runs / 2; i++) work();
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  }).sort((x, y) => x - y);
  const at = (share: number) => times[Math.min(runs - 1, Math.floor(share * runs))]!;
  return { median: at(0.5), low: at(0.05), high: at(0.95) };
}

function print(name: string, { median, low, high }: ReturnType<typeof time>, note = ""): void {
  console.log(
    `${name.padEnd(58)} ${median.toFixed(3).padStart(9)} ms  (${low.toFixed(3)}–${high.toFixed(3)})  ${note}`,
  );
}

const surface = islandSurface();
const terrain = plainTerrain(surface);
const rows = demoPlan(surface);
const world = worldOf(rows);
const link = world.links.get("link-long")!;
const { a, b } = linkEnds(world, link);
const profile = sampleProfile(terrain, a.place, b.place, 30);
const samples = profile.distancesKm.length;
console.log(`A path of ${(profile.distanceM / 1000).toFixed(2)} km, ${samples} samples at 30 m\n`);

const step = (heightM: number) => ({ ...b, radio: { ...b.radio, heightM } });
const answer = (end = b) => answerLink({ plan: world.plan, kind: link.kind, foliageDepthM: 0, a, b: end, profile });
let height = 9;
const drag = time(() => answer(step((height = height >= 18 ? 9 : height + 0.5))), 400);
print("drag: clearance, diffraction and both tapes", drag, `bound 4 ms: ${(4 / drag.median).toFixed(0)} times under`);

const full = time(
  () =>
    answerLink({
      plan: world.plan,
      kind: link.kind,
      foliageDepthM: 0,
      a,
      b,
      profile: sampleProfile(terrain, a.place, b.place, 30),
    }),
  400,
);
print("full answer: profile sampled, then all of the above", full, `${(1000 / full.median).toFixed(0)} paths a second`);

const read = time(() => {
  let sum = 0;
  for (let i = 0; i < samples; i++) sum += groundAt(surface, profile.latDeg[i]!, profile.lonDeg[i]!) * 1.0001 + i;
  return sum;
}, 400);
print(
  "yardstick: bilinear reading and one pass of arithmetic",
  read,
  `a full answer is ${(full.median / read.median).toFixed(2)} times that`,
);

print(
  "the demo's whole review: every link, finding and remedy",
  time(() => reviewPlan(world, (from, to) => sampleProfile(terrain, from, to)), 10),
  `${rows.links.length} links`,
);
print(
  "the island generated",
  time(() => islandSurface(), 4),
);
console.log(`\nPeak memory ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB`);
