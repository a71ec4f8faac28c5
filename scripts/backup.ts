// npm run backup: the whole data directory as one file. The server must be stopped; its own page does the same while it runs.
import { resolve } from "node:path";
import { backUp, DataDirectoryBusy, openStore } from "#store";

const directory = resolve(process.env.TEJADO_DATA || "data");
try {
  const store = await openStore(directory);
  const { path, entries, bytes } = await backUp(store);
  console.log(`Kept ${path}. Opened again: ${entries} files, ${Math.round(bytes / 1e6)} MB unpacked.`);
  await store.close();
} catch (error) {
  console.error(error instanceof DataDirectoryBusy ? `${error.message} Or back up from its page of plans.` : error);
  process.exit(1);
}
