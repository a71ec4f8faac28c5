import { readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { createPlan, LostSecret, openStore, readSecret, secretOf, signedBy, type Store } from "#store";
import { valley } from "#core/testing";
import { makeSealingKey } from "./secrets";
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
  for (const damaged of ["short", ""]) {
    writeFileSync(path, damaged);
    await expect(readSecret(store, "valley", "device:c")).rejects.toThrow(LostSecret);
    // Whoever reads it is told what to do, and no path of the server.
    await expect(readSecret(store, "valley", "device:c")).rejects.toThrow(
      /^The key that seals passwords is missing or damaged[^/]*$/,
    );
    // Left for whoever has a copy: a new key would make the loss final.
    await makeSealingKey(store);
    expect(readFileSync(path, "utf8")).toBe(damaged);
  }
  writeFileSync(path, key);
  expect(await readSecret(store, "valley", "device:c")).not.toBeNull();
});

test("the key is there from the first start, whole, and made once whoever else makes it; one that sealed nothing is replaced", async () => {
  const other = await begunDirectory("secrets-first");
  const path = join(other, "secrets.key");
  let first = await openStore(other);
  try {
    const key = readFileSync(path, "utf8");
    expect(key).toMatch(/^[0-9a-f]{64}$/);
    expect(readdirSync(other).filter((name) => name.includes(".part"))).toEqual([]);
    await first.close();
    first = await openStore(other);
    expect(readFileSync(path, "utf8")).toBe(key);
    // As a power cut left it once.
    writeFileSync(path, "");
    await Promise.all([makeSealingKey(first), makeSealingKey(first)]);
    expect(readFileSync(path, "utf8")).toMatch(/^[0-9a-f]{64}$/);
  } finally {
    await first.close();
    rmSync(other, { recursive: true, force: true });
  }
});
