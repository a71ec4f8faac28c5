import { createRequire } from "node:module";
import { Worker } from "node:worker_threads";
import { afterAll, expect, test } from "@jest/globals";
import { threadClient, ThreadEnded, type ClientOptions } from "./client";

const require = createRequire(import.meta.url);
/** A thread with a memory of what it was told, which can be made to hang or to die. */
const CODE = `
  const { expose } = require(${JSON.stringify(require.resolve("comlink"))});
  const endpoint = require(${JSON.stringify(require.resolve("comlink/dist/umd/node-adapter.js"))});
  const told = [];
  expose({
    tell: (word) => void told.push(word),
    told: () => told,
    twice: (x) => 2 * x,
    fail: () => { throw new RangeError("x is 3; it must be 2"); },
    hang: () => new Promise(() => undefined),
    die: () => process.exit(3),
    thread: () => require("node:worker_threads").threadId,
  }, (endpoint.default ?? endpoint)(require("node:worker_threads").parentPort));`;
interface Tasks {
  tell: (word: string) => void;
  told: () => string[];
  twice: (x: number) => number;
  fail: () => void;
  hang: () => void;
  die: () => void;
  thread: () => number;
}
const stops: (() => Promise<void>)[] = [];
afterAll(() => Promise.all(stops.map((stop) => stop())));
const client = (more: Partial<ClientOptions> = {}) => {
  const made = threadClient<Tasks>("watch", { heapMB: 64, start: () => new Worker(CODE, { eval: true }), ...more });
  stops.push(made.stop);
  return made;
};

test("a shared thread answers all who ask, in the order in which it was told, and throws what its tasks throw", async () => {
  const { use } = client();
  void use((tasks) => tasks.tell("a"));
  void use((tasks) => tasks.tell("b"));
  expect(await use((tasks) => tasks.told())).toEqual(["a", "b"]);
  const [x, y, z] = await Promise.all([use((t) => t.twice(21)), use((t) => t.thread()), use((t) => t.thread())]);
  expect([x, y === z]).toEqual([42, true]);
  await expect(use((tasks) => tasks.fail())).rejects.toThrow("x is 3; it must be 2");
  expect(await use((tasks) => tasks.twice(2))).toBe(4);
});

test("a thread that dies tells all who wait for it, and the next use starts another", async () => {
  const ends: string[] = [];
  const { use } = client({ onEnd: (why) => ends.push(why) });
  const waiting = use((tasks) => tasks.hang());
  const dying = use((tasks) => tasks.die());
  await expect(waiting).rejects.toBeInstanceOf(ThreadEnded);
  await expect(dying).rejects.toThrow("ended with 3");
  expect(ends).toEqual(["the watch thread ended with 3"]);
  expect(await use((tasks) => tasks.twice(1))).toBe(2);
});

test("work that takes too long, or is stopped, ends with its thread", async () => {
  const { use } = client();
  await expect(use((tasks) => tasks.hang(), { mostMs: 50 })).rejects.toMatchObject({ isLate: true });
  const stop = new AbortController();
  const stopped = use((tasks) => tasks.hang(), { signal: stop.signal });
  stop.abort();
  await expect(stopped).rejects.toBeInstanceOf(ThreadEnded);
  await expect(use((tasks) => tasks.twice(1), { signal: stop.signal })).rejects.toThrow();
  expect(await use((tasks) => tasks.twice(3))).toBe(6);
});

test("exclusive uses have threads of their own; one that is free again serves the next, one that failed does not", async () => {
  const { use } = client({ isExclusive: true });
  const both = [use(async (t) => [await t.thread(), await t.twice(1)]), use(async (t) => [await t.thread(), 0])];
  const [[a], [b]] = (await Promise.all(both)) as [number[], number[]];
  expect(a).not.toBe(b);
  const again = await use((tasks) => tasks.thread());
  expect([a, b]).toContain(again);
  const failed = use(async (tasks) => {
    const id = await tasks.thread();
    await tasks.fail();
    return id;
  });
  await expect(failed).rejects.toThrow("x is 3");
});

test("a thread that nobody uses is ended", async () => {
  let end: (why: string) => void = () => undefined;
  const ended = new Promise<string>((resolve) => (end = resolve));
  const { use } = client({ idleMs: 20, onEnd: end });
  await use((tasks) => tasks.twice(1));
  expect(await ended).toMatch(/^the watch thread ended/);
});

test("a thread that is being ended serves nobody new", async () => {
  const shared = client();
  const stop = new AbortController();
  const stopped = shared.use((tasks) => tasks.hang(), { signal: stop.signal });
  stop.abort();
  const next = shared.use((tasks) => tasks.twice(5));
  await expect(stopped).rejects.toBeInstanceOf(ThreadEnded);
  expect(await next).toBe(10);

  const once = client({ isExclusive: true, idleMs: 0 });
  const threads = new Set<number>();
  for (let i = 0; i < 8; i++) threads.add(await once.use((tasks) => tasks.thread()));
  expect(threads.size).toBe(8);

  // Asked again in the very turn in which its time of waiting is over.
  const brief = client({ isExclusive: true, idleMs: 1 });
  for (let i = 0; i < 8; i++) {
    expect(await brief.use((tasks) => tasks.twice(i))).toBe(2 * i);
    await new Promise((done) => setTimeout(done, 1));
  }
});
