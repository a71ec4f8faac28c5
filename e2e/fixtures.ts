import { spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";
import type Axe from "axe-core";
import { expect, test as base, type Page } from "@playwright/test";

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

export interface RunningServer {
  origin: string;
  landing: string;
  process: ChildProcess;
  directory: string;
}

/** Starts Tejado as its users do, on a free port and a data directory of its own. */
export async function startServer(
  flags: string[],
  directory = mkdtempSync(join(tmpdir(), "tejado-e2e-")),
): Promise<RunningServer> {
  const child = spawn(process.execPath, ["scripts/start.mjs", "--port", "0", ...flags], {
    cwd: ROOT,
    env: { ...process.env, TEJADO_DATA: directory },
    stdio: ["ignore", "pipe", "inherit"],
  });
  const url = await new Promise<string>((resolve, reject) => {
    createInterface({ input: child.stdout! }).on("line", (line) => {
      const found = /Tejado is at (\S+)/.exec(line);
      if (found) resolve(found[1]!);
    });
    child.once("exit", (code) => reject(new Error(`the server ended with ${code} before it served`)));
  });
  return { origin: new URL(url).origin, landing: url, process: child, directory };
}

export async function stopServer(server: RunningServer): Promise<number | null> {
  const ended = new Promise<number | null>((resolve) => server.process.once("exit", (code) => resolve(code)));
  server.process.kill("SIGTERM");
  return ended;
}

/** Fails when the page writes an error to its console while the body runs. */
async function withQuietConsole(page: Page, body: () => Promise<void>): Promise<void> {
  const complaints: string[] = [];
  page.on("pageerror", (error) => complaints.push(String(error)));
  page.on("console", (message) => {
    if (message.type() === "error" && !/status of 4\d\d/.test(message.text())) complaints.push(message.text());
  });
  await body();
  expect(complaints, "the browser console stays quiet").toEqual([]);
}

async function withServer(body: (server: RunningServer) => Promise<void>): Promise<void> {
  const server = await startServer(["--demo"]);
  await body(server);
  await stopServer(server);
  rmSync(server.directory, { recursive: true, force: true });
}

/**
 * `demo` is shared by the tests of one worker: what a test keeps on it must not stand in another's way.
 * A test that keeps more than that takes `ownDemo`, a fresh one.
 */
export const test = base.extend<{ demo: string; ownDemo: string }, { server: RunningServer }>({
  server: [async ({}, use) => withServer(use), { scope: "worker", timeout: 180_000 }],
  demo: async ({ server, page }, use) => withQuietConsole(page, () => use(server.landing)),
  ownDemo: async ({ page }, use) => withServer((server) => withQuietConsole(page, () => use(server.landing))),
});

const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

/** Fails on anything that axe calls serious or critical; `rules` looks for these only. */
export async function expectAccessible(page: Page, what: string, rules: string[] = []): Promise<void> {
  if (!(await page.evaluate(() => "axe" in window))) await page.evaluate(AXE);
  const violations = await page.evaluate(async (runOnly) => {
    const { axe } = window as unknown as { axe: typeof Axe };
    // What passes is not told node by node, and our styles are in the page: either takes longer than the looking.
    const found = await axe.run(document, {
      ...(runOnly.length > 0 ? { runOnly } : {}),
      resultTypes: ["violations"],
      preload: false,
    });
    return found.violations.map(({ id, impact, nodes }) => ({
      id,
      impact,
      at: nodes.map(({ target }) => target.join(" ")),
    }));
  }, rules);
  const grave = violations.filter(({ impact }) => impact === "serious" || impact === "critical");
  expect(grave.map(({ id, at }) => `${what}: ${id} at ${at.join(", ")}`)).toEqual([]);
}

export { expect };
