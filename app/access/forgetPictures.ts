import { PICTURE_CACHES } from "#wire";

/** Takes photographs and recordings out of what this browser keeps for the roof: they are for whoever was signed in. */
export async function forgetPictures(): Promise<void> {
  if (typeof caches === "undefined") return;
  await Promise.all(PICTURE_CACHES.map((name) => caches.delete(name)));
}
