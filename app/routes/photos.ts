import { randomUUID } from "node:crypto";
import { photoSchema, plainIssue, putPatch } from "#core/plan";
import { readJson } from "#formats/text";
import { JpegError, stripJpeg } from "#formats/jpeg";
import { requirePlan } from "../requests/plan.server";
import { authorOf } from "../access/author.server";
import { jobsSeen, requireSeen } from "../access/ownJobs.server";
import { keepOwn } from "../keep/keep.server";
import { formOf } from "../requests/asked.server";
import { requireWriter } from "../crew/writer.server";
import type { Route } from "./+types/photos";

/** Bytes of a photograph after the browser made it smaller. */
const MOST_BYTES = 3 * 1024 * 1024;

const PHONE_ID = /^[0-9a-f-]{36}$/;

/** Takes a photograph of a site or a subscriber: a small JPEG and, as JSON, what is known of it. */
export async function action({ params, request }: Route.ActionArgs) {
  requireWriter(request);
  const { store, world } = await requirePlan(params.planId);
  const form = await formOf(request);
  const file = form.get("file");
  const refuse = (message: string) => Response.json({ ok: false, message }, { status: 400 });
  if (!(file instanceof File) || file.size === 0) return refuse("There is no picture in what arrived.");
  if (file.size > MOST_BYTES) return refuse(`The picture has ${file.size} bytes; at most ${MOST_BYTES} are kept.`);
  try {
    const { value: about, problem } = readJson(String(form.get("about")));
    if (problem) return refuse(`What is known of the picture ${problem}.`);
    // A phone that took it without signal has named it already: sent twice, it is kept once.
    const named = String(form.get("id") ?? "");
    const id = PHONE_ID.test(named) ? named : randomUUID();
    const parsed = photoSchema.safeParse({ ...(about as object), id, planId: params.planId });
    if (!parsed.success) {
      const [issue] = parsed.error.issues;
      return refuse(`The picture’s ${issue!.path.join(".")} ${plainIssue(issue!)}.`);
    }
    const photo = parsed.data;
    const owners = photo.ownerKind === "site" ? world.sites : world.subscribers;
    const owner = owners.get(photo.ownerId);
    if (!owner) return refuse(`There is no ${photo.ownerKind} "${photo.ownerId}".`);
    requireSeen((await jobsSeen(store, world)).place(owner.id));
    const data = stripJpeg(new Uint8Array(await file.arrayBuffer()));
    const { status, ...answer } = await keepOwn(store, params.planId, authorOf(request), {
      op: `photo-${id}`,
      what: `Photograph of ${owner.name}`,
      patches: [putPatch("photos", photo)],
      bytes: { tiles: [], photos: [{ photoId: photo.id, data }] },
    });
    return Response.json(answer, { status });
  } catch (error) {
    if (error instanceof JpegError) return refuse(`${file.name}: ${error.told}`);
    throw error;
  }
}
