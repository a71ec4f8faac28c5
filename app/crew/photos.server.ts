import type { World } from "#core/plan";
import { readPhoto, type Store } from "#store";

/** Pictures on one document: more would make it a book. */
const MOST_PHOTOS = 12;

/** A photograph as it is printed. */
export interface PrintedPhoto {
  name: string;
  data: Uint8Array;
  at: string | null;
}

/** The newest photographs of some places, with their bytes. */
export async function photosOf(
  store: Store,
  world: World,
  planId: string,
  placeIds: readonly string[],
): Promise<PrintedPhoto[]> {
  const owners = new Set(placeIds);
  const listed = [...world.photos.values()].filter(({ ownerId }) => owners.has(ownerId)).slice(-MOST_PHOTOS);
  const photos: PrintedPhoto[] = [];
  for (const { id, name, takenAt } of listed) {
    const bytes = await readPhoto(store.db, planId, id);
    if (bytes) photos.push({ name, data: bytes, at: takenAt });
  }
  return photos;
}
