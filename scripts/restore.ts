// npm run restore -- FILE: puts a backup in the place of the data. The server must be stopped.
import { existsSync } from "node:fs";
import { resolve } from "node:path";
import { DataDirectoryBusy, openStore, restore, RestoreRefused } from "#store";

const [file] = process.argv.slice(2);
if (!file || !existsSync(file)) {
  console.error(`Usage: npm run restore -- FILE${file ? `\n"${file}" is not there` : ""}`);
  process.exit(2);
}
try {
  const store = await openStore(resolve(process.env.TEJADO_DATA || "data"));
  await restore(store, file);
  await store.close();
  console.log(`Restored ${file}. What stood there before lies beside it as db-before-restore.`);
} catch (error) {
  console.error(error instanceof DataDirectoryBusy || error instanceof RestoreRefused ? error.message : error);
  process.exit(1);
}
