import { forgetPlans } from "#engine";
import { dropUpload, NO_PLAN, pauseWork, startWork, submit, uploadPath } from "#jobs";
import { stopPool } from "#pool";
import { BackupElsewhere, backupPath, listBackups, restore, RestoreRefused } from "#store";
import { data } from "react-router";
import { getStore } from "../requests/store.server";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/backups";

export async function loader() {
  const store = await getStore();
  return Response.json(listBackups(store));
}

/** Backs up, or restores a backup by its name or from a received file. */
export async function action({ request }: Route.ActionArgs) {
  const store = await getStore();
  const form = await formOf(request);
  if (form.get("intent") === "backup") {
    if (store.isOnServer) return data({ ok: false, message: new BackupElsewhere().message }, { status: 409 });
    return data({ ok: true, job: await submit(store, "backup", NO_PLAN, "Backup of everything", null) });
  }
  const uploadId = String(form.get("uploadId") ?? "");
  const path = uploadId ? uploadPath(store, uploadId) : backupPath(store, String(form.get("name") ?? ""));
  if (!path) return data({ ok: false, message: "There is no such backup." }, { status: 404 });
  try {
    // What waits in the queue is another database's now.
    await pauseWork(store);
    try {
      await restore(store, path);
    } finally {
      // Revisions of the restored plans may be those of others before.
      forgetPlans();
      await stopPool();
      await startWork(store);
    }
    return data({ ok: true, message: "Restored. What stood there before lies beside it as db-before-restore." });
  } catch (error) {
    if (error instanceof RestoreRefused)
      return data({ ok: false, message: `Not restored: ${error.message}` }, { status: 422 });
    throw error;
  } finally {
    if (uploadId) dropUpload(store, uploadId);
  }
}
