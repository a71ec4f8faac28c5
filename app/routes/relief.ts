import { COVER_KINDS, coverKind, reachesGround, readGround, seenFromAfar, type GroundSample } from "#core/terrain";
import { data } from "react-router";
import { z } from "zod";
import { requirePlan } from "../data/plan.server";
import { BEYOND_TERRAIN, RELIEF_SAMPLES } from "../map/reliefTile";
import type { Route } from "./+types/relief";

const tileSchema = z.object({
  z: z.coerce.number().int().min(0).max(20),
  x: z.coerce.number().int().min(0),
  y: z.coerce.number().int().min(0),
});

/**
 * Heights and cover of one web-Mercator tile, sampled at its pixels with one more all around: Float32 heights (NaN
 * where nothing is known), then one cover code a sample. 204 where the tile lies off the terrain.
 */
export async function loader({ params }: Route.LoaderArgs) {
  const asked = tileSchema.safeParse(params);
  if (!asked.success) throw data("A relief tile is named by whole numbers z/x/y, z from 0 to 20.", { status: 400 });
  const { context } = await requirePlan(params.planId);
  const { extent, reliefVersion: version } = context;
  if (!extent) return new Response(null, { status: 204 });
  const { z: zoom, x, y } = asked.data;
  const worldPixels = 256 * 2 ** zoom;
  const lonAt = (column: number) => ((x * 256 + column - 0.5) / worldPixels) * 360 - 180;
  const latAt = (row: number) =>
    (Math.atan(Math.sinh(Math.PI * (1 - (2 * (y * 256 + row - 0.5)) / worldPixels))) * 180) / Math.PI;

  const pixelM = (40_075_017 * Math.cos((latAt(128) * Math.PI) / 180)) / worldPixels;
  const terrain = seenFromAfar(context.terrain, pixelM);
  const count = RELIEF_SAMPLES ** 2;
  const heights = new Float32Array(count);
  const cover = new Uint8Array(count);
  const sample: GroundSample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  const kindCodes = Uint8Array.from({ length: 256 }, (_, code) => COVER_KINDS.indexOf(coverKind(code)));
  let known = false;
  for (let row = 0; row < RELIEF_SAMPLES; row++) {
    const lat = latAt(row);
    for (let column = 0; column < RELIEF_SAMPLES; column++) {
      const lon = lonAt(column);
      const i = row * RELIEF_SAMPLES + column;
      readGround(terrain, lat, lon, sample);
      heights[i] = sample.groundAmslM;
      cover[i] = kindCodes[sample.coverCode]!;
      if (sample.groundAmslM === sample.groundAmslM) known = true;
      else if (!reachesGround(terrain, lat, lon)) cover[i] = BEYOND_TERRAIN;
      else known = true;
    }
  }
  if (!known) return new Response(null, { status: 204 });
  const body = new Uint8Array(count * 5);
  body.set(new Uint8Array(heights.buffer), 0);
  body.set(cover, count * 4);
  return new Response(body, {
    headers: {
      "Content-Type": "application/octet-stream",
      ETag: `"${version}"`,
      "Cache-Control": "private, max-age=300",
    },
  });
}
