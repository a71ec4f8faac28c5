import { cpSync, existsSync, mkdtempSync, renameSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PGlite } from "@electric-sql/pglite";
import { openStore } from "#store";
import { BEGUN_STORE } from "./names";

/**
 * A new directory that holds a store of the newest schema with nothing in it. Making one takes seconds and copying it a tenth of one, so
 * it is made once for all test files.
 */
export async function begunDirectory(name: string): Promise<string> {
  const shared = process.env[BEGUN_STORE]!;
  const begun = join(shared, "store");
  if (!existsSync(begun)) {
    const own = mkdtempSync(join(shared, "making-"));
    await (await openStore(own, { databaseUrl: "" })).close();
    try {
      renameSync(own, begun);
    } catch (error) {
      // Another test file was first.
      if (!existsSync(begun)) throw error;
    }
  }
  const directory = mkdtempSync(join(tmpdir(), `tejado-${name}-`));
  cpSync(begun, directory, { recursive: true });
  return directory;
}

let bare: Promise<Blob> | null = null;

/** A database in memory without any table, made once for each test file and loaded from then on. */
export async function bareDatabase(): Promise<PGlite> {
  bare ??= (async () => {
    const first = await PGlite.create();
    const dumped = await first.dumpDataDir("none");
    await first.close();
    return dumped;
  })();
  return PGlite.create({ loadDataDir: await bare });
}
