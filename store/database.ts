import { existsSync, mkdirSync, renameSync } from "node:fs";
import { join } from "node:path";
import type { PGlite } from "@electric-sql/pglite";
import { openDurable } from "./durable";
import { holdDataDirectory } from "./lock";
import { MIGRATIONS } from "./migrations";

export interface Store {
  /** Ask for it each time: a restore puts another in its place. */
  db: PGlite;
  directory: string;
  close(): Promise<void>;
}

/** Opens the store in a data directory, making and migrating it as needed. Throws DataDirectoryBusy when it is taken. */
export async function openStore(directory: string): Promise<Store> {
  mkdirSync(directory, { recursive: true });
  const release = await holdDataDirectory(directory);
  try {
    const store: Store = {
      db: await openDatabase(directory),
      directory,
      close: async () => {
        await store.db.close();
        await release();
      },
    };
    return store;
  } catch (error) {
    await release();
    throw error;
  }
}

/** The database of a held directory, at the newest schema. */
export async function openDatabase(directory: string): Promise<PGlite> {
  const live = join(directory, "db");
  const before = join(directory, "db-before-restore");
  // A restore that died between its two moves left the data under their other name.
  if (!existsSync(live) && existsSync(before)) renameSync(before, live);
  const db = await openDurable(live);
  await migrate(db);
  return db;
}

/** Brings the schema to the newest migration, all missing ones in one transaction. A newer schema than ours is refused. */
export async function migrate(db: PGlite): Promise<void> {
  await db.transaction(async (tx) => {
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
