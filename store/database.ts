import { existsSync, mkdirSync, renameSync } from "node:fs";
import { join } from "node:path";
import type { Db, Store } from "./db";
import { holdDataDirectory } from "./lock";
import { MIGRATIONS } from "./migrations";
import { requireRoom, roomProblem, type FreeSpace } from "./room";
import { makeSealingKey } from "./secrets";
import { threadDb } from "./thread";

export interface StoreOptions {
  /** Address of a PostgreSQL server; without one the data stand in the directory. */
  databaseUrl?: string | undefined;
  /** Free bytes at a directory; the disk's own where left out. */
  freeSpace?: FreeSpace;
}

/**
 * Opens the store, making and migrating it as needed; uploads and exports lie in its directory whichever database it has.
 * Throws DataDirectoryBusy when the directory is taken, NoRoom when the disk is too full to begin.
 */
export async function openStore(
  directory: string,
  { databaseUrl = process.env.TEJADO_DATABASE_URL, freeSpace }: StoreOptions = {},
): Promise<Store> {
  mkdirSync(directory, { recursive: true });
  const release = await holdDataDirectory(directory);
  try {
    const store: Store = {
      db: databaseUrl ? await openServer(databaseUrl) : await openDatabase(directory, freeSpace),
      directory,
      isOnServer: Boolean(databaseUrl),
      roomProblem: () => roomProblem(directory, freeSpace),
      close: async () => {
        await store.db.close();
        await release();
      },
    };
    await makeSealingKey(store);
    return store;
  } catch (error) {
    await release();
    throw error;
  }
}

async function openServer(databaseUrl: string): Promise<Db> {
  const { serverDb } = await import("./drivers/server");
  const db = serverDb(databaseUrl);
  try {
    await migrate(db);
  } catch (error) {
    await db.close();
    throw error;
  }
  return db;
}

/** The database of a held directory, at the newest schema. */
export async function openDatabase(directory: string, freeSpace?: FreeSpace): Promise<Db> {
  // A database that cannot write its log hangs instead of failing: it is not even begun on a full disk.
  requireRoom(directory, freeSpace);
  const live = join(directory, "db");
  const before = join(directory, "db-before-restore");
  // A restore that died between its two moves left the data under their other name.
  if (!existsSync(live) && existsSync(before)) renameSync(before, live);
  const db = await threadDb({ directory: live }, () => requireRoom(directory, freeSpace));
  await migrate(db);
  return db;
}

/** Held while migrations run, so that two processes on one server do not run them side by side. */
const MIGRATION_LOCK = 7_305_611;

/** Brings the schema to the newest migration, all missing ones in one transaction. A newer schema than ours is refused. */
export async function migrate(db: Db): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.query("SELECT pg_advisory_xact_lock($1)", [MIGRATION_LOCK]);
    await tx.exec(
      "CREATE TABLE IF NOT EXISTS migrations (number int PRIMARY KEY, applied_at timestamptz NOT NULL DEFAULT now())",
    );
    const { rows } = await tx.query<{ newest: number }>("SELECT coalesce(max(number), 0) AS newest FROM migrations");
    const newest = rows[0]!.newest;
    if (newest > MIGRATIONS.length) {
      throw new Error(
        `the data directory is at migration ${newest}; this Tejado knows ${MIGRATIONS.length}. Use a newer Tejado.`,
      );
    }
    for (const [index, sql] of MIGRATIONS.entries()) {
      if (index + 1 <= newest) continue;
      await tx.exec(sql);
      await tx.query("INSERT INTO migrations (number) VALUES ($1)", [index + 1]);
    }
  });
}
