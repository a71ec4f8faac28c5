import { setImmediate } from "node:timers/promises";
import type { Pace } from "#core/evaluate";

/** How long this thread works before it looks after questions, ms. */
const PORTION_MS = 15;

export function pace(): Pace {
  let since = performance.now();
  return {
    isDue: () => performance.now() - since > PORTION_MS,
    rest: async () => {
      await setImmediate();
      since = performance.now();
    },
  };
}
