import { createHash } from "node:crypto";
import { promisify } from "node:util";
import { gzip } from "node:zlib";
import type { PlanContext } from "#engine";
import { askPool, type CoverageAsk } from "#pool";
import { readCoverage, writeCoverage, type Store } from "#store";

const packed = promisify(gzip);

/**
 * One part of a coverage, gzipped as it travels: as it was kept with the plan, or worked out by the pool and kept. It is found again
 * while nothing that it follows from has changed: the antenna's place and height, the frequency, the customer's height, the earth, the
 * season, what readings taught there and the ground.
 */
export async function askCoverage(
  store: Store,
  context: PlanContext,
  ask: CoverageAsk,
  signal?: AbortSignal,
): Promise<Uint8Array> {
  const { plan, versions } = context;
  const key = createHash("sha256")
    .update(JSON.stringify([LAYOUT, versions.terrain, ask]))
    .digest("hex");
  const kept = await readCoverage(store.db, plan.id, key);
  if (kept) return kept;
  const { answer } = await askPool(context, [], { kind: "coverage", ask }, signal ? { signal } : {});
  const data = new Uint8Array(await packed(answer));
  await writeCoverage(store.db, plan.id, key, data);
  return data;
}
/** Counted up whenever the sweep or its bytes become others. */
const LAYOUT = 3;
