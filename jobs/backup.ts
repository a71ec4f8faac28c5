import { basename } from "node:path";
import { backUp } from "#store";
import type { JobKind } from "./tools";

/** Writes the whole database as one file. */
export const backup: JobKind<null> = {
  work: async (store, _job, tools) => {
    tools.progress(0.1, "Packing all data");
    const path = await backUp(store);
    return { message: `Kept ${path}`, resultUrl: `/backups/${basename(path)}` };
  },
};
