import type { FieldPack } from "#wire";
import { keepPack } from "./keep";

/** Takes a job onto the phone, or anew, with its photographs; false where it could not be fetched. */
export async function fetchPack(planId: string, visitId: string): Promise<boolean> {
  const plan = `/plans/${encodeURIComponent(planId)}`;
  const response = await fetch(`${plan}/field?visit=${encodeURIComponent(visitId)}`).catch(() => null);
  if (!response?.ok) return false;
  const pack = (await response.json()) as FieldPack;
  await keepPack(pack);
  // Looked at once, photographs stay with the page.
  const photos = pack.ends ? [...pack.ends.a.photos, ...pack.ends.b.photos] : [];
  await Promise.allSettled(photos.map((photo) => fetch(`${plan}/photos/${photo.id}`)));
  return true;
}
