import { spawn } from "node:child_process";
import { createInterface } from "node:readline";
import { openStore } from "#store";

export interface Survived {
  acknowledged: number;
  lost: number;
  failedStarts: number;
}

/** Runs the twenty writers on a directory until `end` kills them; gives the ops that were acknowledged before. */
export async function acknowledgedUntil(
  directory: string,
  run: number,
  end: (kill: () => void, count: () => number) => Promise<void>,
): Promise<string[]> {
  const child = spawn(process.execPath, ["--import", "tsx", "store/testing/manyWriters.ts", directory, String(run)], {
    stdio: ["ignore", "pipe", "ignore"],
    detached: true,
  });
  const ops: string[] = [];
  let cut = false;
  const ready = new Promise<void>((resolve, reject) => {
    createInterface({ input: child.stdout }).on("line", (line) => {
      if (line === "ready") resolve();
      else if (!cut) ops.push(line);
    });
    child.once("exit", () => reject(new Error("the writers did not begin")));
  });
  const closed = new Promise<void>((resolve) => child.once("close", () => resolve()));
  await ready;
  await end(
    () => {
      cut = true;
      try {
        process.kill(-child.pid!, "SIGKILL");
      } catch {
        // It has ended by itself, as it does when its disk is gone.
      }
    },
    () => ops.length,
  );
  await closed;
  return ops;
}

/** How many of some acknowledged ops a directory does not hold; null when it does not open. */
export async function lostOf(directory: string, ops: readonly string[]): Promise<number | null> {
  try {
    const store = await openStore(directory);
    const { rows } = await store.db.query<{ op: string }>(
      "SELECT op FROM history WHERE plan_id = 'valley' AND op <> ''",
    );
    await store.close();
    const kept = new Set(rows.map(({ op }) => op));
    return ops.filter((op) => !kept.has(op)).length;
  } catch {
    return null;
  }
}

/** How long writers may take for their first changes on a busy machine, ms. */
const LONGEST_START_MS = 20_000;

/** Waits until some changes are acknowledged, and a moment longer: the middle of whatever is under way. */
export async function busyFor(count: () => number, random: () => number): Promise<void> {
  const until = Date.now() + LONGEST_START_MS;
  const enough = 2 + Math.floor(random() * 20);
  while (count() < enough && Date.now() < until) await new Promise((resolve) => setTimeout(resolve, 5));
  await new Promise((resolve) => setTimeout(resolve, random() * 60));
}

/** Kills the writers `times` times in the middle of their work, and looks after each what is there. */
export async function killWriters(directory: string, times: number, random: () => number): Promise<Survived> {
  const all: string[] = [];
  const survived: Survived = { acknowledged: 0, lost: 0, failedStarts: 0 };
  for (let run = 0; run < times; run++) {
    all.push(
      ...(await acknowledgedUntil(directory, run, async (kill, count) => {
        await busyFor(count, random);
        kill();
      })),
    );
    const lost = await lostOf(directory, all);
    if (lost === null) survived.failedStarts++;
    else survived.lost = Math.max(survived.lost, lost);
  }
  return { ...survived, acknowledged: all.length };
}
