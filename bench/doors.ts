// How fast pages are answered while hostile files, pictures and a herd of writers are at the door.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { zipSync } from "fflate";
import { firstLook } from "../e2e/firstLook";
import { startServer, stopServer } from "../e2e/startServer";
import { goBehindServing } from "../threads";
import { watchHealth } from "./health";
import { memoryMb, watchMemory } from "./memory";
import { print } from "./print";

/** Longest that anybody may wait for a page meanwhile, ms. */
const BOUND_MS = 200;
const directory = mkdtempSync(join(tmpdir(), "tejado-doors-"));
const server = await startServer(["--demo"], directory);
const { origin } = server;
const plan = `${origin}/plans/isla-orvena`;
const post = (url: string, body: BodyInit, type: string) =>
  fetch(url, {
    method: "POST",
    body,
    headers: { origin, "content-type": type, "content-length": String((body as Uint8Array).length) },
  });

/** An archive of 1.5 MB that unpacks to 1.5 GB. Made beforehand: it keeps this thread busy. */
const zeros = new Uint8Array(100_000_000);
const bomb = zipSync(Object.fromEntries(Array.from({ length: 15 }, (_, i) => [`zeros-${i}`, zeros])));

/** Sends it three times. */
async function bombs(): Promise<void> {
  for (let i = 0; i < 3; i++) {
    const sent = await post(`${origin}/uploads`, bomb, "application/octet-stream");
    const { uploadId } = (await sent.json()) as { uploadId: string };
    const order = JSON.stringify({ uploadId });
    await (await post(`${origin}/archives`, new TextEncoder().encode(order), "application/json")).text();
  }
}
/** Pictures that would each cost a path around the earth: half of a foreign page's, half of our own. */
const pictures = async (count: number) => {
  const pairs = new URLSearchParams(Array.from({ length: 20 }, (_, i) => ["pair", `-89,${i},89,${i + 1}`])).toString();
  await Promise.all(
    Array.from({ length: count }, async (_, i) => {
      const headers: Record<string, string> = i % 2 ? { "sec-fetch-site": "cross-site" } : {};
      await (await fetch(`${plan}/profiles?${pairs}`, { headers })).arrayBuffer();
    }),
  );
};
/** People who each keep some changes. */
const herd = (people: number, changes: number, round: string) =>
  Promise.all(
    Array.from({ length: people }, async (_, who) => {
      for (let change = 0; change < changes; change++) {
        const body = {
          ...{ intent: "keep", op: `${round}${who}-${change}`, what: "note", reason: "" },
          patches: [{ kind: "subscribers", id: `sub-${who + 1}`, set: { notes: `${who} ${change}` } }],
        };
        await (
          await post(`${plan}/changes`, new TextEncoder().encode(JSON.stringify(body)), "application/json")
        ).text();
      }
    }),
  );
/** Everything of the kit that goes on paper, twice over. */
const prints = () =>
  Promise.all(
    ["order", "labels", "sheets", "procedures", "order", "labels", "sheets", "procedures"].map(async (file) =>
      (await fetch(`${plan}/kit/${file}.pdf`)).arrayBuffer(),
    ),
  );
await fetch(`${plan}/window`);
await firstLook(server);
// A server that has run for a while: whatever it is asked for was asked for before.
for (let i = 0; i < 10; i++) await Promise.all([pictures(2), herd(2, 1, `warm${i}w`)]);
const before = memoryMb(server);
let memory = watchMemory(server);
await bombs();
// They are unpacked once they are taken.
await new Promise((resolve) => setTimeout(resolve, 6000));
print("three bombs: memory more than before, at most", memory.end() - before, "MB", 300);
const printing = await watchHealth(origin, 10);
memory = watchMemory(server);
await prints();
const printed = await printing.end();
print(
  `eight documents printed: worst of ${printed.asked} answers of /health meanwhile`,
  printed.longestMs,
  "ms",
  BOUND_MS,
);
print("eight documents printed: memory more than before, at most", memory.end() - before, "MB", 300);
memory = watchMemory(server);
const health = await watchHealth(origin, 10);
// Whoever presses in sits at other machines: on this one they must not take the server's cores from it.
goBehindServing();
const start = performance.now();
await Promise.all([bombs(), pictures(60), herd(20, 10, "w")]);
await new Promise((resolve) => setTimeout(resolve, 3000));
const { longestMs, asked } = await health.end();
console.log(`bombs, pictures and a herd took ${((performance.now() - start) / 1000).toFixed(1)} s`);
print(`worst of ${asked} answers of /health meanwhile`, longestMs, "ms", BOUND_MS);
print("bombs, pictures and a herd: memory more than before, at most", memory.end() - before, "MB", 300);
await stopServer(server);
rmSync(directory, { recursive: true, force: true });
