import { randomUUID } from "node:crypto";
import { photoSchema } from "#core/plan";
import { JpegError, stripJpeg } from "#formats/jpeg";
import { applyChange, writePhoto } from "#store";
import { requirePlan } from "../data/plan.server";
import { signature } from "../data/preferences";
import type { Route } from "./+types/photos";

/** Bytes of a photograph after the browser made it smaller. */
const MOST_BYTES = 3 * 1024 * 1024;

/** Takes a photograph of a site or a subscriber: a small JPEG and, as JSON, what is known of it. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, context } = await requirePlan(params.planId);
  const form = await request.formData();
  const file = form.get("file");
  const refuse = (message: string) => Response.json({ ok: false, message }, { status: 400 });
  if (!(file instanceof File) || file.size === 0) return refuse("There is no picture in what arrived.");
  if (file.size > MOST_BYTES) return refuse(`The picture has ${file.size} bytes; at most ${MOST_BYTES} are kept.`);
  try {
    const about = JSON.parse(String(form.get("about"))) as object;
    const photo = photoSchema.parse({ ...about, id: randomUUID(), planId: params.planId });
    const owners = photo.ownerKind === "site" ? context.world.sites : context.world.subscribers;
    const owner = owners.get(photo.ownerId);
    if (!owner) return refuse(`There is no ${photo.ownerKind} "${photo.ownerId}".`);
    await writePhoto(store.db, params.planId, photo.id, stripJpeg(new Uint8Array(await file.arrayBuffer())));
    await applyChange(store.db, {
      planId: params.planId,
      who: signature(request),
      what: `Photograph of ${owner.name}`,
      patches: [{ kind: "photos", id: photo.id, row: photo }],
    });
    return Response.json({ ok: true, message: "Kept." });
  } catch (error) {
    if (error instanceof JpegError) return refuse(`${file.name}: ${error.message}`);
    return refuse(`${file.name}: ${(error as Error).message}`);
  }
}
