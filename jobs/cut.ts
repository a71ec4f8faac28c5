import { setImmediate as breathe } from "node:timers/promises";
import { cuttingOut, type Bounds, type Terrain, type TerrainCut } from "#core/terrain";

/** Cuts a piece out of a terrain while pages go on being served. */
export async function cutGently(terrain: Terrain, bounds: Bounds): Promise<TerrainCut> {
  const work = cuttingOut(terrain, bounds);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    await breathe();
  }
}
