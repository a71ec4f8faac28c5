// A plan of 10 000 linked customers on 60 sectors, as its users meet it: pages, changes, windows. Run with `npm run bench`.
import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { largeSibling } from "#demo";
import { createPlan, openStore, packLayer, signedBy } from "#store";
import { startServer, stopServer } from "../e2e/startServer";
import { watchHealth } from "./health";
import { memoryMb } from "./memory";
import { print } from "./print";

const WRITERS = 20;
/** Changes of one kind that are kept one after another. */
const TURNS = 5;
const medianOf = (some: number[]) => [...some].sort((x, y) => x - y)[some.length >> 1]!;

const directory = mkdtempSync(join(tmpdir(), "tejado-network-"));
const { rows, surface } = largeSibling(167);
const planId = rows.plan.id;
const { layer, tiles } = packLayer(planId, "ground", "bare", surface);
const store = await openStore(directory);
await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("bench"), "Began", {
  tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
  photos: [],
});
await store.close();
console.log(`${rows.links.length} links, ${rows.subscribers.length} customers\n`);

const server = await startServer([], directory);
const at = `${server.origin}/plans/${planId}`;
const timed = async <T>(work: () => Promise<T>): Promise<[T, number]> => {
  const start = performance.now();
  return [await work(), performance.now() - start];
};
/** Time until a page is here whole, s, and its bytes as they went over the wire: fetch would tell them unpacked. */
function page(path: string): { seconds: number; bytes: number } {
  const said = execFileSync(
    "curl",
    ["-s", "-o", "/dev/null", "-H", "Accept-Encoding: gzip, br", "-w", "%{time_total} %{size_download}", path],
    { encoding: "utf8" },
  );
  const [seconds, bytes] = said.split(" ").map(Number) as [number, number];
  return { seconds, bytes };
}

let count = 0;
async function keep(patches: object[]): Promise<number> {
  const response = await fetch(`${at}/changes`, {
    method: "POST",
    headers: { "Content-Type": "application/json", Origin: server.origin },
    body: JSON.stringify({ intent: "keep", op: `bench-${count++}`, patches, what: "Bench" }),
  });
  const answer = (await response.json()) as { ok: boolean; message: string; revision: number };
  if (!answer.ok) throw new Error(answer.message);
  return answer.revision;
}
interface Seen {
  revision: number;
  summaries: { count: number };
  isSettled: boolean;
}
async function since(revision: number, more = ""): Promise<Seen> {
  const response = await fetch(`${at}/since?revision=${revision}${more}`);
  if (!response.ok) throw new Error(await response.text());
  return (await response.json()) as Seen;
}
/** What a browser asks for to show a plan: the frame of a page, and the plan itself. */
function plan(): { seconds: number; bytes: number } {
  const [frame, rows] = [page(`${at}/paths`), page(`${at}/window`)];
  return { seconds: frame.seconds + rows.seconds, bytes: frame.bytes + rows.bytes };
}
try {
  const cold = plan();
  print("first page, cold", cold.seconds, "s", 4);
  print("first page over the wire", cold.bytes / 1e6, "MB", 1.5);
  let health = await watchHealth(server.origin);
  const [, workedOutMs] = await timed(() => since(1, "&all=1"));
  console.log(`worked out from nothing in ${(workedOutMs / 1000).toFixed(1)} s meanwhile`);
  print("/health while the plan is worked out, longest", (await health.end()).longestMs, "ms", 100);
  const warm = plan();
  print("first page, warm", warm.seconds, "s", 2);
  print("first page over the wire, with its answers", warm.bytes / 1e6, "MB", 1.5);
  print("memory of the server", memoryMb(server), "MB", 700);

  let revision = 1;
  /** Keeps some changes of one kind, one after another, and prints the median of what each took. */
  const seen = async (name: string, patchOf: (turn: number) => object, mostMs: number) => {
    health = await watchHealth(server.origin);
    const [seenMs, settledMs, counts] = [[], [], [0, 0]] as [number[], number[], [number, number]];
    for (let turn = 0; turn < TURNS; turn++) {
      const before = revision;
      const [change, ms] = await timed(async () => {
        revision = await keep([patchOf(turn)]);
        return since(before);
      });
      seenMs.push(ms);
      counts[0] = change.summaries.count;
      if (change.isSettled) continue;
      const [settled, laterMs] = await timed(() => since(revision, `&unsettled=${before}`));
      settledMs.push(laterMs);
      counts[1] = settled.summaries.count;
    }
    print(`${name}: kept and seen (${counts[0]} links answered anew)`, medianOf(seenMs), "ms", mostMs);
    if (settledMs.length > 0)
      print(`  all who hear it answered anew after that (${counts[1]} links)`, medianOf(settledMs), "ms", 2000);
    print("  /health meanwhile, longest", (await health.end()).longestMs, "ms", 100);
  };
  const [site, subscriber] = [rows.sites[3]!, rows.subscribers[5]!];
  const linked = rows.links[500]!;
  await seen("a note on a site", (turn) => ({ kind: "sites", id: site.id, set: { notes: `wasps ${turn}` } }), 300);
  await seen(
    "a customer's demand",
    (turn) => ({ kind: "subscribers", id: subscriber.id, set: { demandMbps: 7 + turn } }),
    300,
  );
  await seen(
    "a customer's height",
    (turn) => ({ kind: "radios", id: linked.bRadioId, set: { heightM: 6 + turn / 2 } }),
    300,
  );
  await seen(
    "a sector's azimuth",
    (turn) => ({ kind: "radios", id: `ap-${site.id}-1`, set: { azimuthDeg: 100 + 5 * turn } }),
    300,
  );

  // A second window hears of a change by its line, and then has it.
  const line = (await fetch(`${at}/events`)).body!.getReader();
  const heard = (async () => {
    for (;;) {
      const text = new TextDecoder().decode((await line.read()).value);
      if (Number(/data: (\d+)/.exec(text)?.[1] ?? 0) > revision) return;
    }
  })();
  const [, followedMs] = await timed(async () => {
    const kept = keep([{ kind: "sites", id: site.id, set: { notes: "bees" } }]);
    await heard;
    await since(revision);
    revision = await kept;
  });
  print("a second window has another's change", followedMs, "ms", 1000);
  await line.cancel();

  const waits = await Promise.all(
    Array.from({ length: WRITERS }, async (_, i) => {
      const id = rows.subscribers[i]!.id;
      const [, ms] = await timed(() => keep([{ kind: "subscribers", id, set: { notes: `by writer ${i}` } }]));
      return ms;
    }),
  );
  waits.sort((x, y) => x - y);
  print(`${WRITERS} writers at once, 95 % wait under`, waits[Math.floor(WRITERS * 0.95)]! / 1000, "s", 2);
  print("memory of the server", memoryMb(server), "MB", 700);
} finally {
  await stopServer(server);
  rmSync(directory, { recursive: true, force: true });
}
