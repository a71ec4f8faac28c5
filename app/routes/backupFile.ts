import { createReadStream, statSync } from "node:fs";
import { createReadableStreamFromReadable } from "@react-router/node";
import { backupPath } from "#store";
import { data } from "react-router";
import { getStore } from "../data/store.server";
import type { Route } from "./+types/backupFile";

/** A backup to take elsewhere. */
export async function loader({ params }: Route.LoaderArgs) {
  const path = backupPath(await getStore(), params.name);
  if (!path) throw data("There is no such backup.", { status: 404 });
  return new Response(createReadableStreamFromReadable(createReadStream(path)), {
    headers: {
      "Content-Type": "application/gzip",
      "Content-Length": String(statSync(path).size),
      "Content-Disposition": `attachment; filename="${params.name}"`,
    },
  });
}
