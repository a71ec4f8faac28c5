import { randomUUID } from "node:crypto";
import { layerSchema, type Layer } from "#core/plan";
import { cutTiles, groundIn, type GridFrame, type Surface } from "#core/terrain";
import type { Db, Queries } from "./db";
import { encodeTile } from "#ground";

/** Tiles fetched in one query. */
const FETCHED_TILES = 400;

export function frameOf(layer: Layer): GridFrame {
  const { westDeg, northDeg, cellLonDeg, cellLatDeg, columns, rows } = layer;
  return { westDeg, northDeg, cellLonDeg, cellLatDeg, columns, rows };
}

/** Under which the tiles of a large raster's overview lie. */
export function overviewId(layerId: string): string {
  return `${layerId}~overview`;
}

/** All tiles of a raster, packed, by index. */
async function packedTiles(db: Queries, planId: string, layerId: string): Promise<Map<number, Uint8Array>> {
  const packed = new Map<number, Uint8Array>();
  let after = -1;
  for (;;) {
    const { rows } = await db.query<{ tile_index: number; data: Uint8Array }>(
      "SELECT tile_index, data FROM layer_tiles WHERE plan_id = $1 AND layer_id = $2 AND tile_index > $3 ORDER BY tile_index LIMIT $4",
      [planId, layerId, after, FETCHED_TILES],
    );
    // The driver's answers share one large buffer: a copy lets it go.
    for (const { tile_index, data } of rows) packed.set(tile_index, data.slice());
    if (rows.length < FETCHED_TILES) return packed;
    after = rows.at(-1)!.tile_index;
  }
}

/** Puts tiles of a raster into the store; its row in `layers` makes them part of the plan later. */
export async function writeTiles(
  db: Queries,
  planId: string,
  layerId: string,
  tiles: readonly { index: number; data: Uint8Array }[],
): Promise<void> {
  for (const { index, data } of tiles) {
    await db.query(
      "INSERT INTO layer_tiles (plan_id, layer_id, tile_index, data) VALUES ($1, $2, $3, $4) ON CONFLICT (plan_id, layer_id, tile_index) DO UPDATE SET data = EXCLUDED.data",
      [planId, layerId, index, data],
    );
  }
}

/** The packed tiles of a raster, by index. */
export async function readTiles(
  db: Queries,
  planId: string,
  layerId: string,
): Promise<{ index: number; data: Uint8Array }[]> {
  return [...(await packedTiles(db, planId, layerId))].map(([index, data]) => ({ index, data }));
}

/** Puts tiles of a raster whose row comes later; until then they are known to be somebody's work under way. */
export async function stageTiles(
  db: Db,
  planId: string,
  layerId: string,
  tiles: readonly { index: number; data: Uint8Array }[],
  isOverview: boolean,
): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.query(
      "INSERT INTO imports (plan_id, layer_id) VALUES ($1, $2) ON CONFLICT (plan_id, layer_id) DO UPDATE SET touched_at = now()",
      [planId, layerId],
    );
    await writeTiles(tx, planId, isOverview ? overviewId(layerId) : layerId, tiles);
  });
}

/** Makes staged tiles those of layers, in the transaction that writes the layers' rows. */
export async function takeTiles(tx: Queries, planId: string, layerIds: readonly string[]): Promise<void> {
  if (layerIds.length > 0)
    await tx.query("DELETE FROM imports WHERE plan_id = $1 AND layer_id = ANY($2)", [planId, layerIds]);
}

/** Drops the tiles of one raster, overview included, and gives their space back: of an import that failed before its row was written. */
export async function dropTiles(db: Db, planId: string, layerId: string): Promise<void> {
  await deleteTiles(db, planId, layerId);
  await db.exec("VACUUM layer_tiles");
}

async function deleteTiles(db: Db, planId: string, layerId: string): Promise<void> {
  await db.query("DELETE FROM layer_tiles WHERE plan_id = $1 AND layer_id = ANY($2)", [
    planId,
    [layerId, overviewId(layerId)],
  ]);
  await db.query("DELETE FROM imports WHERE plan_id = $1 AND layer_id = $2", [planId, layerId]);
}

/** How long an import may write nothing before its process is taken to have died. */
const LONGEST_REST = "1 hour";

/**
 * Drops tiles that no layer and no entry of the logbook names: those of imports that died with their process. Imports that
 * another process is at work on are left alone.
 */
export async function dropStrayTiles(db: Db): Promise<void> {
  const { rows } = await db.query<{ plan_id: string; id: string }>(
    `SELECT t.plan_id, t.id FROM (SELECT DISTINCT plan_id, split_part(layer_id, '~', 1) AS id FROM layer_tiles) t
     WHERE NOT EXISTS (SELECT 1 FROM layers l WHERE l.plan_id = t.plan_id AND l.id = t.id)
       AND NOT EXISTS (SELECT 1 FROM history h WHERE h.plan_id = t.plan_id AND h.patches @> jsonb_build_array(jsonb_build_object('kind', 'layers', 'id', t.id)))
       AND NOT EXISTS (SELECT 1 FROM imports i WHERE i.plan_id = t.plan_id AND i.layer_id = t.id AND i.touched_at > now() - interval '${LONGEST_REST}')`,
  );
  for (const { plan_id, id } of rows) await deleteTiles(db, plan_id, id);
  if (rows.length > 0) await db.exec("VACUUM layer_tiles");
}

/** A raster held whole, as a layer's row and its packed tiles. */
export function packLayer(
  planId: string,
  name: string,
  kind: Layer["kind"],
  surface: Surface,
  id: string = randomUUID(),
  addedAt = new Date().toISOString(),
): { layer: Layer; tiles: { index: number; data: Uint8Array }[] } {
  let holeCount = 0;
  const tiles = [];
  let index = 0;
  const { columns, rows } = surface.frame;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) if (Number.isNaN(groundIn(surface, column, row))) holeCount++;
  for (const { tile } of cutTiles(surface)) tiles.push({ index: index++, data: encodeTile(tile) });
  return { layer: layerSchema.parse({ id, planId, name, kind, ...surface.frame, holeCount, addedAt }), tiles };
}
