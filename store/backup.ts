import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from "node:fs";
import { join } from "node:path";
import { migrate, openDatabase, type Store } from "./database";
import { openDurable } from "./drivers/durable";
import { pgliteDb } from "./drivers/pglite";
import { endAllJobs } from "./jobs";

/** Thrown when a file is no backup that can be restored; the data stay as they were. */
export class RestoreRefused extends Error {}

/** Thrown where the data stand on a database server, which has its own tools for backups. */
export class BackupElsewhere extends Error {
  constructor() {
    super(
      "The data stand on a PostgreSQL server: back them up and restore them there, with pg_dump and pg_restore. Tejado's own backups are of data that it keeps itself.",
    );
    this.name = "BackupElsewhere";
  }
}

const folderOf = (store: Pick<Store, "directory">) => join(store.directory, "backups");
const NAME = /^tejado-[\w-]{1,60}\.tar\.gz$/;

export interface Backup {
  name: string;
  bytes: number;
  at: Date;
}

/** Writes the whole database as one packed file, named after the moment. Gives its path. */
export async function backUp(store: Store, now = new Date()): Promise<string> {
  const folder = folderOf(store);
  mkdirSync(folder, { recursive: true });
  const path = join(folder, `tejado-${now.toISOString().replace(/[:.]/g, "-")}.tar.gz`);
  const dump = await store.db.dump();
  if (!dump) throw new BackupElsewhere();
  // Under another name until it is whole and on the disk: a backup that broke off must not look like one.
  writeFileSync(`${path}.part`, dump, { flush: true });
  renameSync(`${path}.part`, path);
  flushFolder(folder);
  return path;
}

/** Puts the entries of a folder on the disk. */
function flushFolder(folder: string): void {
  const fd = openSync(folder, "r");
  try {
    fsyncSync(fd);
  } finally {
    closeSync(fd);
  }
}

/** Backups that lie in the data directory, newest first. */
export function listBackups(store: Pick<Store, "directory">): Backup[] {
  const folder = folderOf(store);
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((name) => NAME.test(name))
    .map((name) => {
      const { size, mtime } = statSync(join(folder, name));
      return { name, bytes: size, at: mtime };
    })
    .sort((x, y) => y.at.getTime() - x.at.getTime());
}

/** Path of the backup of that name; null where there is no such backup. */
export function backupPath(store: Pick<Store, "directory">, name: string): string | null {
  const path = join(folderOf(store), name);
  return NAME.test(name) && existsSync(path) ? path : null;
}

/**
 * Puts a backup in the place of the data. It is unpacked and looked over beside them first; only a whole database that
 * this Tejado can read takes their place, and what stood there is kept as `db-before-restore`. Throws RestoreRefused.
 */
export async function restore(store: Store, path: string): Promise<void> {
  if (store.isOnServer) throw new BackupElsewhere();
  const live = join(store.directory, "db");
  const incoming = join(store.directory, "db-restoring");
  const before = join(store.directory, "db-before-restore");
  rmSync(incoming, { recursive: true, force: true });
  try {
    const db = pgliteDb(await openDurable(incoming, { loadDataDir: new Blob([readFileSync(path)]) }));
    await migrate(db);
    await db.query("SELECT count(*) FROM plans");
    await db.close();
  } catch (error) {
    rmSync(incoming, { recursive: true, force: true });
    throw new RestoreRefused(
      `the file is no backup that can be restored: ${(error as Error).message}. The data stay as they were.`,
      {
        cause: error,
      },
    );
  }
  await store.db.close();
  rmSync(before, { recursive: true, force: true });
  renameSync(live, before);
  try {
    renameSync(incoming, live);
  } catch (error) {
    renameSync(before, live);
    throw error;
  } finally {
    store.db = await openDatabase(store.directory);
    await endAllJobs(store.db, "Ended: another database was restored over this one.");
  }
}
