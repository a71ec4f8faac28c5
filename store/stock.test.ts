import { rmSync } from "node:fs";
import { expect, test } from "@jest/globals";
import { besideStamp, createPlan, openStore, putStock, readStock, signedBy, stockOf } from "#store";
import { valley } from "#core/testing";
import { begunDirectory } from "./testing";

test("two people who count different figures of one item both keep theirs", async () => {
  const directory = await begunDirectory("stock");
  const store = await openStore(directory);
  await createPlan(store.db, valley().rows, signedBy("test"), "Began");
  expect(await stockOf(store.db, "valley", "drum")).toEqual({
    ...{ itemId: "drum", inStore: 0, ordered: 0, arrived: 0, packed: 0 },
  });
  await Promise.all([
    putStock(store.db, "valley", "drum", "ordered", 300),
    putStock(store.db, "valley", "drum", "inStore", 40),
    putStock(store.db, "valley", "clamp", "packed", 2),
  ]);
  const before = await besideStamp(store.db, "stock", "valley");
  await putStock(store.db, "valley", "drum", "arrived", 100);
  expect(await besideStamp(store.db, "stock", "valley")).not.toBe(before);
  expect(await readStock(store.db, "valley")).toEqual([
    { itemId: "clamp", inStore: 0, ordered: 0, arrived: 0, packed: 2 },
    { itemId: "drum", inStore: 40, ordered: 300, arrived: 100, packed: 0 },
  ]);
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});
