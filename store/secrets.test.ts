import { readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { createPlan, LostSecret, openStore, readSecret, secretOf, signedBy, type Store } from "#store";
import { valley } from "#core/testing";
import { begunDirectory } from "./testing";

const directory = await begunDirectory("secrets");
let store: Store;
beforeAll(async () => {
  store = await openStore(directory);
  await createPlan(store.db, valley().rows, signedBy("test"), "Began");
});
afterAll(async () => {
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

test("a secret is made up once, however many ask for it, and each name has its own", async () => {
  expect(await readSecret(store, "valley", "device:a")).toBeNull();
  const asked = await Promise.all(Array.from({ length: 8 }, () => secretOf(store, "valley", "device:a")));
  expect(new Set(asked).size).toBe(1);
  expect(asked[0]).toMatch(/^[a-zA-Z2-9]{20}$/);
  expect(await readSecret(store, "valley", "device:a")).toBe(asked[0]);
  expect(await secretOf(store, "valley", "device:b")).not.toBe(asked[0]);
});

test("what lies in the database does not tell it, and its key is its owner's alone", async () => {
  const secret = await secretOf(store, "valley", "network:n");
  const { rows } = await store.db.query<{ sealed: Uint8Array }>("SELECT sealed FROM secrets WHERE ref = 'network:n'");
  expect(Buffer.from(rows[0]!.sealed).toString("latin1")).not.toContain(secret);
  expect(statSync(join(directory, "secrets.key")).mode & 0o777).toBe(0o600);
});

test("put under another name, or sealed with another key, it is lost and says so", async () => {
  await secretOf(store, "valley", "device:c");
  await store.db.query(
    "INSERT INTO secrets (plan_id, ref, sealed) SELECT plan_id, 'device:d', sealed FROM secrets WHERE ref = 'device:c'",
  );
  await expect(readSecret(store, "valley", "device:d")).rejects.toThrow(LostSecret);
  const path = join(directory, "secrets.key");
  const key = readFileSync(path, "utf8");
  writeFileSync(path, "0".repeat(64));
  await expect(readSecret(store, "valley", "device:c")).rejects.toThrow("sealed on another machine");
  writeFileSync(path, "short");
  await expect(readSecret(store, "valley", "device:c")).rejects.toThrow(LostSecret);
  writeFileSync(path, key);
  expect(await readSecret(store, "valley", "device:c")).not.toBeNull();
});
