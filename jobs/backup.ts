import { backUp } from "#store";
import type { JobKind } from "./tools";

/** Writes the whole database as one file. */
export const backup: JobKind<null> = {
  work: async (store, _job, tools) => {
    tools.progress(0.1, "Packing all data");
    const { name, entries, bytes } = await backUp(store);
    const megabytes = Math.round(bytes / 1e6);
    return {
      message: `Kept ${name}. Opened again: ${entries} files, ${megabytes} MB unpacked.`,
      resultUrl: `/backups/${name}`,
    };
  },
};
