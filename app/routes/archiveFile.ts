import { createReadStream, existsSync, statSync } from "node:fs";
import { createReadableStreamFromReadable } from "@react-router/node";
import { archivePath, jobOf } from "#jobs";
import { data } from "react-router";
import { fileName } from "../requests/fileName";
import { openPlan } from "../requests/plan.server";
import type { Route } from "./+types/archiveFile";

/** A finished archive. */
export async function loader({ params }: Route.LoaderArgs) {
  const { store, context } = await openPlan(params.planId);
  // Another plan's archive is not to be had under this plan's address.
  const isOwn = (await jobOf(store, params.planId, params.fileId)) !== null;
  const path = isOwn ? archivePath(store, params.fileId) : null;
  if (!path || !existsSync(path)) throw data("That archive is not kept any more; write it again.", { status: 404 });
  return new Response(createReadableStreamFromReadable(createReadStream(path)), {
    headers: {
      "Content-Type": "application/zip",
      "Content-Length": String(statSync(path).size),
      "Content-Disposition": `attachment; filename="${fileName((await context.ask("plan")).plan.name)}.tejado.zip"`,
    },
  });
}
