import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe } from "@jest/globals";
import { openStore, type Store } from "#store";
import { begunDirectory } from "./begun";
import { serverPrograms, startServer, type TestServer } from "./server";

/** A store for the tests of one driver: opened before them, closed and taken away after them. */
interface DriverTest {
  store: () => Store;
  /** Opens the same data again, as another process on the same server would; null where one process may hold them. */
  second: (() => Promise<Store>) | null;
}

/** Runs the same tests over both drivers; the server's are skipped where none is installed. */
export function onBothDrivers(tests: (driver: DriverTest) => void): void {
  describe("embedded", () => {
    let store: Store;
    let directory: string;
    beforeAll(async () => {
      directory = await begunDirectory("store");
      store = await openStore(directory, { databaseUrl: "" });
    }, 60_000);
    afterAll(async () => {
      await store.close();
      rmSync(directory, { recursive: true, force: true });
    });
    tests({ store: () => store, second: null });
  });
  const bin = serverPrograms();
  (bin ? describe : describe.skip)("on a PostgreSQL server", () => {
    const directory = mkdtempSync(join(tmpdir(), "tejado-store-"));
    let server: TestServer;
    let databaseUrl: string;
    let store: Store;
    beforeAll(async () => {
      server = await startServer(bin!);
      databaseUrl = await server.newDatabase();
      store = await openStore(directory, { databaseUrl });
    }, 60_000);
    afterAll(async () => {
      await store.close();
      await server.stop();
      rmSync(directory, { recursive: true, force: true });
    });
    tests({
      store: () => store,
      second: () => openStore(mkdtempSync(join(directory, "second-")), { databaseUrl }),
    });
  });
}
