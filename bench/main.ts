import { answerLink } from "#core/link";
import { linkEnds, worldOf } from "#core/plan";
import {
  cutTiles,
  plainTerrain,
  profileScratch,
  sampleProfile,
  tiledSurface,
  tilesAcross,
  type Surface,
} from "#core/terrain";
import { reviewPlan } from "#core/evaluate";
import { demoPlan, islandSurface, largeSibling } from "#demo";

/** Long enough for the engine to have compiled what it will. */
const WARM_UP_MS = 1000;

/** Median, 5th and 95th percentile of `runs` timings of `work`, ms, after a warm-up. */
function time(work: () => unknown, runs: number, warmUpMs = WARM_UP_MS): { median: number; low: number; high: number } {
  const warmUntil = performance.now() + warmUpMs;
  while (performance.now() < warmUntil) work();
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
const answer = (end = b) => answerLink({ plan: world.plan, kind: link.kind, foliageDepthM: null, a, b: end, profile });
let height = 9;
const drag = time(() => answer(step((height = height >= 18 ? 9 : height + 0.5))), 400);
print("drag: clearance, diffraction and both tapes", drag, `bound 4 ms: ${(4 / drag.median).toFixed(0)} times under`);

// The ground as the application holds it: cut into tiles.
const scratch = profileScratch();
const fullOn = (ground: Surface) => {
  const over = plainTerrain(ground);
  return () =>
    answerLink({
      plan: world.plan,
      kind: link.kind,
      foliageDepthM: null,
      a,
      b,
      profile: sampleProfile(over, a.place, b.place, 30, scratch),
    });
};
/** The same samples read from bare arrays by a loop written by hand: what a full answer is held against. */
const { westDeg, northDeg, cellLonDeg, cellLatDeg, columns } = surface.frame;
const cells = surface.groundAmslM;
const standing = surface.coverHeightM!;
const kinds = surface.coverCode!;
/** All that a sample holds: the ground between four cells, and what stands there. */
const wholeByHand = () => {
  let sum = 0;
  for (let i = 0; i < samples; i++) {
    const column = (profile.lonDeg[i]! - westDeg) / cellLonDeg - 0.5;
    const row = (northDeg - profile.latDeg[i]!) / cellLatDeg - 0.5;
    const at = (row | 0) * columns + (column | 0);
    const x = column - (column | 0);
    const y = row - (row | 0);
    const upper = cells[at]! * (1 - x) + cells[at + 1]! * x;
    const lower = cells[at + columns]! * (1 - x) + cells[at + columns + 1]! * x;
    const near = ((row + 0.5) | 0) * columns + ((column + 0.5) | 0);
    sum += (upper * (1 - y) + lower * y) * 1.0001 + standing[near]! + kinds[near]! + i;
  }
  return sum;
};
/** Its ground alone. */
const byHand = () => {
  let sum = 0;
  for (let i = 0; i < samples; i++) {
    const column = (profile.lonDeg[i]! - westDeg) / cellLonDeg - 0.5;
    const row = (northDeg - profile.latDeg[i]!) / cellLatDeg - 0.5;
    const at = (row | 0) * columns + (column | 0);
    const x = column - (column | 0);
    const y = row - (row | 0);
    const upper = cells[at]! * (1 - x) + cells[at + 1]! * x;
    const lower = cells[at + columns]! * (1 - x) + cells[at + columns + 1]! * x;
    sum += (upper * (1 - y) + lower * y) * 1.0001 + i;
  }
  return sum;
};
const index = new Map(
  [...cutTiles(surface)].map(({ tileColumn, tileRow, tile }) => [
    tileRow * tilesAcross(surface.frame) + tileColumn,
    tile,
  ]),
);
for (const [name, ground] of [
  ["tiles", tiledSurface(surface.frame, index)],
  ["one array", surface],
] as const) {
  // In turns, so that a machine that changes its pace changes both alike.
  const rounds = Array.from({ length: 60 }, () => ({
    full: time(fullOn(ground), 100, 25),
    whole: time(wholeByHand, 400, 25),
    read: time(byHand, 400, 25),
  }));
  const ratios = rounds.map(({ full, read }) => full.median / read.median).sort((x, y) => x - y);
  const wholes = rounds.map(({ full, whole }) => full.median / whole.median).sort((x, y) => x - y);
  const { full, whole, read } = rounds[30]!;
  print(
    `full answer over ${name}: profile, clearance, loss, both tapes`,
    full,
    `${(1000 / full.median).toFixed(0)} paths a second`,
  );
  for (const [what, byHandOf, times] of [
    ["the same samples from bare arrays, by hand", whole, wholes],
    ["their ground alone", read, ratios],
  ] as const) {
    print(what, byHandOf);
    console.log(
      `${" ".repeat(59)}a full answer is ${times[30]!.toFixed(2)} times that (${times[6]!.toFixed(2)}–${times[54]!.toFixed(2)} in 60 turns), bound 4`,
    );
  }
}

print(
  "the demo's whole review: every link, finding and remedy",
  time(() => reviewPlan(world, (from, to) => sampleProfile(terrain, from, to)), 10),
  `${rows.links.length} links`,
);
print(
  "the island generated",
  time(() => islandSurface(), 4),
);

// Every receiver of a large plan with all that it hears of the others, over ground that nobody has looked at yet.
const large = largeSibling();
const largeTerrain = plainTerrain(large.surface);
const largeWorld = worldOf(large.rows);
const started = performance.now();
reviewPlan(largeWorld, (from, to) => sampleProfile(largeTerrain, from, to), 0);
console.log(
  `the large sibling's review without remedies, once and cold            ${((performance.now() - started) / 1000).toFixed(1)} s  for ${largeWorld.links.size} links, ${largeWorld.radios.size} radios`,
);
console.log(`\nPeak memory ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB`);
