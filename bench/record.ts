// The record under many hands: writers side by side, kills, power cuts. Run with `npm run bench`.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setPatch } from "#core/plan";
import { valley } from "#core/testing";
import { createPlan, openStore, readHistory, readPlanAt, recordChange, signedBy, type Store } from "#store";
import { killWriters } from "../store/testing/kills";
import { cutPower } from "../store/testing/powerCut";
import { serverPrograms, startServer } from "../store/testing/server";

const WRITERS = 20;
const CHANGES = 50;
const KILLS = 30;
const CUTS = 8;

function print(name: string, value: number | string, bound: string, isWithin: boolean): void {
  console.log(`${name.padEnd(66)} ${String(value).padStart(8)}  bound ${bound}: ${isWithin ? "within" : "MISSED"}`);
  if (!isWithin) process.exitCode = 1;
}

async function manyWriters(store: Store, driver: string): Promise<void> {
  await createPlan(store.db, valley().rows, signedBy("bench"), "Began");
  let [kept, conflicts] = [0, 0];
  const waitsMs: number[] = [];
  const start = performance.now();
  await Promise.all(
    Array.from({ length: WRITERS }, async (_, writer) => {
      let base = 1;
      for (let turn = 0; turn < CHANGES; turn++) {
        const field = ["name", "notes", "access", "terms", "hazards"][(writer + turn) % 5]!;
        const since = performance.now();
        const outcome = await recordChange(store.db, {
          ...signedBy(`writer ${writer}`),
          planId: "valley",
          op: `w${writer}-${turn}`,
          what: `${writer} ${turn}`,
          patches: [{ ...setPatch("sites", writer % 2 ? "west" : "east", { [field]: `${writer} ${turn}` }), base }],
        });
        waitsMs.push(performance.now() - since);
        if (outcome.kind === "kept") kept++;
        if (outcome.kind === "conflict") conflicts++;
        if (outcome.kind === "kept" || outcome.kind === "conflict") base = outcome.revision;
      }
    }),
  );
  const tookMs = performance.now() - start;
  const { revision } = (await readPlanAt(store.db, "valley"))!;
  const entries = await readHistory(store.db, "valley", { limit: 5000 });
  const answered = kept + conflicts;
  print(
    `${driver}: changes merged or answered as a conflict (${conflicts})`,
    answered,
    `${WRITERS * CHANGES}`,
    answered === WRITERS * CHANGES,
  );
  print(
    `${driver}: entries of the record beside what was acknowledged`,
    entries.length - 1 - kept,
    "0",
    entries.length - 1 === kept && revision === kept + 1,
  );
  waitsMs.sort((x, y) => x - y);
  console.log(
    `${driver}: ${(tookMs / answered).toFixed(1)} ms a change with ${WRITERS} waiting; 95 % wait under ${waitsMs[Math.floor(waitsMs.length * 0.95)]!.toFixed(0)} ms`,
  );
  const twice = {
    ...signedBy("bench"),
    planId: "valley",
    op: "twice-1",
    what: "twice",
    patches: [setPatch("sites", "west", { name: "twice" })],
  };
  await recordChange(store.db, twice);
  await recordChange(store.db, twice);
  const count = (await readHistory(store.db, "valley", { words: "twice" })).length;
  print(`${driver}: changes kept of one op sent twice`, count, "1", count === 1);
}

const folder = mkdtempSync(join(tmpdir(), "tejado-bench-"));
const embedded = await openStore(join(folder, "embedded"), { databaseUrl: "" });
await manyWriters(embedded, "embedded");
await embedded.close();
const bin = serverPrograms();
if (bin) {
  const server = await startServer(bin);
  const store = await openStore(join(folder, "server"), { databaseUrl: await server.newDatabase() });
  await manyWriters(store, "PostgreSQL server");
  await store.close();
  await server.stop();
} else console.log("PostgreSQL server: none is installed, not measured");

const killed = await killWriters(join(folder, "killed"), KILLS, Math.random);
print(`kill -9 at ${KILLS} moments: lost of ${killed.acknowledged} acknowledged`, killed.lost, "0", killed.lost === 0);
print("kill -9: restarts that failed", killed.failedStarts, "0", killed.failedStarts === 0);
const cut = await cutPower(CUTS, Math.random);
if (cut) {
  print(`${CUTS} power cuts: lost of ${cut.acknowledged} acknowledged`, cut.lost, "0", cut.lost === 0);
  print("power cuts: restarts that failed", cut.failedStarts, "0", cut.failedStarts === 0);
} else console.log("power cuts: this process may not mount a file system, not measured");
rmSync(folder, { recursive: true, force: true });
