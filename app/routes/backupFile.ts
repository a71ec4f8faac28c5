import { createReadStream, existsSync, statSync } from "node:fs";
import { createReadableStreamFromReadable } from "@react-router/node";
import { backupPath, sealingKeyPath } from "#store";
import { data } from "react-router";
import { getStore } from "../requests/store.server";
import { SEALING_KEY } from "../import/sealingKey";
import type { Route } from "./+types/backupFile";

/** A backup to take elsewhere, or the key that no backup holds. */
export async function loader({ params }: Route.LoaderArgs) {
  const store = await getStore();
  const isKey = params.name === SEALING_KEY;
  const path = isKey ? sealingKeyPath(store) : backupPath(store, params.name);
  if (!path || !existsSync(path)) throw data("There is no such backup.", { status: 404 });
  return new Response(createReadableStreamFromReadable(createReadStream(path)), {
    headers: {
      "Content-Type": isKey ? "text/plain" : "application/gzip",
      "Cache-Control": "no-store",
      "Content-Length": String(statSync(path).size),
      "Content-Disposition": `attachment; filename="${params.name}"`,
    },
  });
}
