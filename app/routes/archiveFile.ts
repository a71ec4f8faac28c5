import { createReadStream, existsSync, statSync } from "node:fs";
import { createReadableStreamFromReadable } from "@react-router/node";
import { archivePath } from "#jobs";
import { data } from "react-router";
import { fileName } from "../data/fileName";
import { openPlan } from "../data/plan.server";
import type { Route } from "./+types/archiveFile";

/** A finished archive. */
export async function loader({ params }: Route.LoaderArgs) {
  const { store, context } = await openPlan(params.planId);
  const path = archivePath(store, params.fileId);
  if (!path || !existsSync(path)) throw data("That archive is not kept any more; write it again.", { status: 404 });
  return new Response(createReadableStreamFromReadable(createReadStream(path)), {
    headers: {
      "Content-Type": "application/zip",
      "Content-Length": String(statSync(path).size),
      "Content-Disposition": `attachment; filename="${fileName((await context.ask("plan")).plan.name)}.tejado.zip"`,
    },
  });
}
