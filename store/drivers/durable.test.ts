import { fsyncSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { openDurable } from "./durable";

const directory = mkdtempSync(join(tmpdir(), "tejado-durable-"));
afterAll(() => rmSync(directory, { recursive: true, force: true }));

test("what is acknowledged was put on the disk first: every commit flushes, a question does not", async () => {
  let flushes = 0;
  const counted = (fd: number) => {
    flushes++;
    fsyncSync(fd);
  };
  const database = await openDurable(join(directory, "db"), {}, counted);
  // A new database is put on the disk whole.
  expect(flushes).toBeGreaterThan(900);
  const { rows } = await database.query<{ fsync: string }>("SHOW fsync");
  expect(rows[0]!.fsync).toBe("on");
  await database.exec("CREATE TABLE notes (id int PRIMARY KEY, text text)");
  for (let id = 1; id <= 5; id++) {
    const before = flushes;
    await database.query("INSERT INTO notes VALUES ($1, 'kept')", [id]);
    expect(flushes).toBeGreaterThan(before);
  }
  const before = flushes;
  await database.query("SELECT count(*) FROM notes");
  expect(flushes).toBe(before);
  await database.transaction(async (tx) => {
    for (let id = 6; id <= 30; id++) await tx.query("INSERT INTO notes VALUES ($1, 'kept')", [id]);
  });
  // One transaction, however many rows, waits for the disk once or twice.
  expect(flushes - before).toBeGreaterThan(0);
  expect(flushes - before).toBeLessThan(5);
  await database.close();
  const again = await openDurable(join(directory, "db"));
  expect((await again.query<{ count: number }>("SELECT count(*)::int AS count FROM notes")).rows[0]!.count).toBe(30);
  await again.close();
});
