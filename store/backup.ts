import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { migrate, openDatabase } from "./database";
import type { Store } from "./db";
import { inspected, NoBackup, openedBackup, sealed, type Inspected } from "./backupFile";
import { flushFolder } from "./flushed";
import { endAllJobs } from "./jobs";
import { threadDb } from "./thread";

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
const NAME = /^tejado-[\w-]{1,60}\.tar\.gz(\.sealed)?$/;

export interface Backup {
  name: string;
  bytes: number;
  at: Date;
}

/** A backup that was written, and what was found in it when it was opened again. */
export interface Kept extends Inspected {
  name: string;
  path: string;
}

/** The passphrase that backups are sealed with; empty for none. */
const passphrase = (): string => process.env.TEJADO_BACKUP_PASSPHRASE ?? "";

/** Writes the whole database as one packed file, named after the moment, and opens it again to count what is in it. */
export async function backUp(store: Store, now = new Date(), kind: "" | "daily-" = ""): Promise<Kept> {
  const folder = folderOf(store);
  mkdirSync(folder, { recursive: true });
  const isSealed = passphrase() !== "";
  const name = `tejado-${kind}${now.toISOString().replace(/[:.]/g, "-")}.tar.gz${isSealed ? ".sealed" : ""}`;
  const path = join(folder, name);
  const dump = await store.db.dump();
  if (!dump) throw new BackupElsewhere();
  // Under another name until it is whole and on the disk: a backup that broke off must not look like one.
  const part = `${path}.part`;
  try {
    writeFileSync(part, isSealed ? sealed(dump, passphrase()) : dump, { flush: true });
    const found = await inspected(openedBackup(part, passphrase()));
    renameSync(part, path);
    flushFolder(folder);
    return { name, path, ...found };
  } finally {
    rmSync(part, { force: true });
  }
}

/** Daily backups that are kept; older ones are dropped. */
const DAYS_KEPT = 7;
const DAY_MS = 24 * 3600 * 1000;

/** Backs up if the last daily backup is a day old, and drops those beyond a week. Null where nothing was due. */
export async function backUpDaily(store: Store, now = new Date()): Promise<Kept | null> {
  if (store.isOnServer) return null;
  const daily = () => listBackups(store).filter(({ name }) => name.startsWith("tejado-daily-"));
  const last = daily()[0];
  if (last && now.getTime() - momentOf(last.name) < DAY_MS) return null;
  const kept = await backUp(store, now, "daily-");
  const byAge = daily().sort((x, y) => momentOf(y.name) - momentOf(x.name));
  for (const { name } of byAge.slice(DAYS_KEPT)) rmSync(join(folderOf(store), name), { force: true });
  return kept;
}

/** When a daily backup was made, by its name; the beginning of time for a name that does not tell. */
function momentOf(name: string): number {
  const found = /^tejado-daily-(\d{4}-\d\d-\d\d)T(\d\d)-(\d\d)-(\d\d)/.exec(name);
  return found ? Date.parse(`${found[1]}T${found[2]}:${found[3]}:${found[4]}Z`) : 0;
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
    const packed = openedBackup(path, passphrase());
    await inspected(packed);
    const db = await threadDb({ directory: incoming, backup: packed });
    await migrate(db);
    await db.query("SELECT count(*) FROM plans");
    await db.close();
  } catch (error) {
    rmSync(incoming, { recursive: true, force: true });
    const why =
      error instanceof NoBackup
        ? error.message
        : "the file holds a database that this Tejado cannot open or bring up to date";
    throw new RestoreRefused(`${why}. The data stay as they were.`, { cause: error });
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
