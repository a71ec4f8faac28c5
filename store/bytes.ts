import type { Queries } from "./db";
import { writePhoto } from "./photos";
import { writeTiles } from "./terrain";

/** The bytes that lie apart from a plan's rows: tiles by layer, pictures by photograph. */
export interface PlanBytes {
  tiles: { layerId: string; index: number; data: Uint8Array }[];
  photos: { photoId: string; data: Uint8Array }[];
}

/** Writes bytes in the transaction of the rows that they belong to. */
export async function writeBytes(tx: Queries, planId: string, { tiles, photos }: PlanBytes): Promise<void> {
  for (const { layerId, ...tile } of tiles) await writeTiles(tx, planId, layerId, [tile]);
  for (const { photoId, data } of photos) await writePhoto(tx, planId, photoId, data);
}
