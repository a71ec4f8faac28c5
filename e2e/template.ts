import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { startServer, stopServer, type RunningServer } from "./startServer";

/** Where the demo lies as it is first made: making it anew for each server takes longer than copying it. */
export const TEMPLATE = "TEJADO_E2E_TEMPLATE";

/** How long the year behind the demo may take to be played and looked at, ms. */
const LONGEST_LOOK_MS = 120_000;

/** Makes the demo once for all servers, its first look with it; takes it away when every test has ended. */
export default async function makeTemplate(): Promise<() => void> {
  const directory = mkdtempSync(join(tmpdir(), "tejado-template-"));
  const server = await startServer(["--demo"], directory);
  await look(server);
  await stopServer(server);
  process.env[TEMPLATE] = directory;
  return () => rmSync(directory, { recursive: true, force: true });
}

async function look({ origin }: RunningServer): Promise<void> {
  const kept = `${origin}/plans/isla-orvena/watch/kept`;
  await fetch(kept, {
    method: "POST",
    headers: { Origin: origin, "Content-Type": "application/json" },
    body: JSON.stringify({ intent: "look" }),
  });
  const begun = Date.now();
  for (;;) {
    const { look } = (await (await fetch(kept)).json()) as { look: unknown };
    if (look) return;
    if (Date.now() > begun + LONGEST_LOOK_MS) throw new Error("the demo was not looked at");
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}
