// The bill of a plan of 10 000 customers, and what looking through all of its kit costs a step of a change in hand. Run with
// `npm run bench`.
import { billOf } from "#core/bill";
import { planFaults } from "#core/evaluate";
import { addressFaults } from "#core/addressing";
import { endOf, worldOf } from "#core/plan";
import { powerChain } from "#core/power";
import { largeSibling } from "#demo";

const world = worldOf(largeSibling(167).rows);

/** Middle of some runs, ms. */
function msOf(run: () => unknown): number {
  const times = Array.from({ length: 9 }, () => {
    const start = performance.now();
    run();
    return performance.now() - start;
  });
  return times.sort((x, y) => x - y)[times.length >> 1]!;
}

function print(name: string, ms: number, bound: number): void {
  const isWithin = ms <= bound;
  console.log(`${name.padEnd(52)} ${ms.toFixed(1).padStart(8)} ms  bound ${bound}: ${isWithin ? "within" : "MISSED"}`);
  if (!isWithin) process.exitCode = 1;
}

console.log(`${world.radios.size} radios, ${world.sites.size} sites\n`);
print(
  "the bill of the whole plan",
  msOf(() => billOf(world)),
  1000,
);
print(
  "every radio's chain of cable and power",
  msOf(() => [...world.radios.keys()].map((id) => powerChain(endOf(world, id), null))),
  50,
);
print(
  "every address held against every other",
  msOf(() => addressFaults(world)),
  50,
);
print(
  "all that is wrong with a plan as a whole",
  msOf(() => planFaults(world, new Map())),
  100,
);
