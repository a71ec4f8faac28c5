import { PICTURE_CACHES } from "#wire";

/** Deletes the photographs and recordings that the field worker cached: the next person to sign in must not see them. */
export async function forgetPictures(): Promise<void> {
  if (typeof caches === "undefined") return;
  await Promise.all(PICTURE_CACHES.map((name) => caches.delete(name)));
}
