import { readPhoto } from "#store";
import { data } from "react-router";
import { pictureCaching } from "../access/pictureCaching.server";
import { jobsSeen, requireSeen } from "../access/ownJobs.server";
import { requirePlan } from "../requests/plan.server";
import type { Route } from "./+types/photo";

/** The picture itself. */
export async function loader({ params }: Route.LoaderArgs) {
  const { store, world } = await requirePlan(params.planId);
  const photo = world.photos.get(params.photoId);
  if (photo) requireSeen((await jobsSeen(store, world)).place(photo.ownerId));
  const bytes = await readPhoto(store.db, params.planId, params.photoId);
  if (!bytes) throw data("There is no such photograph.", { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: { "Content-Type": "image/jpeg", "Cache-Control": pictureCaching() },
  });
}
