import { randomUUID } from "node:crypto";
import { photoSchema, putPatch } from "#core/plan";
import { JpegError, stripJpeg } from "#formats/jpeg";
import { requirePlan } from "../data/plan.server";
import { authorOf } from "../access/author.server";
import { keepOwn } from "../keep/keep.server";
import type { Route } from "./+types/photos";

/** Bytes of a photograph after the browser made it smaller. */
const MOST_BYTES = 3 * 1024 * 1024;

/** Takes a photograph of a site or a subscriber: a small JPEG and, as JSON, what is known of it. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, world } = await requirePlan(params.planId);
  const form = await request.formData();
  const file = form.get("file");
  const refuse = (message: string) => Response.json({ ok: false, message }, { status: 400 });
  if (!(file instanceof File) || file.size === 0) return refuse("There is no picture in what arrived.");
  if (file.size > MOST_BYTES) return refuse(`The picture has ${file.size} bytes; at most ${MOST_BYTES} are kept.`);
  try {
    const about = JSON.parse(String(form.get("about"))) as object;
    const photo = photoSchema.parse({ ...about, id: randomUUID(), planId: params.planId });
    const owners = photo.ownerKind === "site" ? world.sites : world.subscribers;
    const owner = owners.get(photo.ownerId);
    if (!owner) return refuse(`There is no ${photo.ownerKind} "${photo.ownerId}".`);
    const data = stripJpeg(new Uint8Array(await file.arrayBuffer()));
    const { status, ...answer } = await keepOwn(store, params.planId, authorOf(request), {
      what: `Photograph of ${owner.name}`,
      patches: [putPatch("photos", photo)],
      bytes: { tiles: [], photos: [{ photoId: photo.id, data }] },
    });
    return Response.json(answer, { status });
  } catch (error) {
    if (error instanceof JpegError) return refuse(`${file.name}: ${error.message}`);
    return refuse(`${file.name}: ${(error as Error).message}`);
  }
}
