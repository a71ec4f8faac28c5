import { randomUUID } from "node:crypto";
import type { PGlite } from "@electric-sql/pglite";
import { cutTiles, tiledSurface, type GridFrame, type Surface, type TerrainTile } from "#core/terrain";
import { z } from "zod";
import { decodeTile, encodeTile } from "./tileCodec";

const terrainRowSchema = z.object({
  name: z.string(),
  version: z.string(),
  westDeg: z.number(),
  northDeg: z.number(),
  cellLonDeg: z.number().positive(),
  cellLatDeg: z.number().positive(),
  columns: z.number().int().positive(),
  rows: z.number().int().positive(),
});

export interface Terrain {
  name: string;
  version: string;
  frame: GridFrame;
  surface: Surface;
}

/** Decoded terrain of the plans used last, by plan; about 7 bytes a cell. */
const cache = new Map<string, Terrain>();
const CACHED_PLANS = 4;

/** Replaces the terrain of a plan, tile by tile, in one transaction. */
export async function writeTerrain(db: PGlite, planId: string, name: string, surface: Surface): Promise<void> {
  const { frame } = surface;
  await db.transaction(async (tx) => {
    await tx.query("DELETE FROM terrains WHERE plan_id = $1", [planId]);
    await tx.query(
      "INSERT INTO terrains (plan_id, name, west_deg, north_deg, cell_lon_deg, cell_lat_deg, columns, rows, version) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)",
      [
        planId,
        name,
        frame.westDeg,
        frame.northDeg,
        frame.cellLonDeg,
        frame.cellLatDeg,
        frame.columns,
        frame.rows,
        randomUUID(),
      ],
    );
    let index = 0;
    for (const { tile } of cutTiles(surface)) {
      await tx.query("INSERT INTO terrain_tiles (plan_id, tile_index, data) VALUES ($1, $2, $3)", [
        planId,
        index++,
        encodeTile(tile),
      ]);
    }
  });
  cache.delete(planId);
}

/** The terrain of a plan, decoded once and kept, or null when it has none. */
export async function readTerrain(db: PGlite, planId: string): Promise<Terrain | null> {
  const { rows } = await db.query(
    `SELECT name, version, west_deg AS "westDeg", north_deg AS "northDeg", cell_lon_deg AS "cellLonDeg", cell_lat_deg AS "cellLatDeg", columns, rows FROM terrains WHERE plan_id = $1`,
    [planId],
  );
  if (!rows[0]) return null;
  const { name, version, ...frame } = terrainRowSchema.parse(rows[0]);
  const known = cache.get(planId);
  if (known?.version === version) return known;
  const stored = await db.query<{ tile_index: number; data: Uint8Array }>(
    "SELECT tile_index, data FROM terrain_tiles WHERE plan_id = $1",
    [planId],
  );
  const tiles = new Map<number, TerrainTile>(stored.rows.map((row) => [row.tile_index, decodeTile(row.data)]));
  const terrain: Terrain = { name, version, frame, surface: tiledSurface(frame, tiles) };
  cache.delete(planId);
  cache.set(planId, terrain);
  if (cache.size > CACHED_PLANS) cache.delete(cache.keys().next().value!);
  return terrain;
}
