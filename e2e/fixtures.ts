import { spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";
import AxeBuilder from "@axe-core/playwright";
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

/** Each test begins with a fresh demo of its own server. */
export const test = base.extend<{ demo: string }, { server: RunningServer }>({
  server: [
    async ({}, use) => {
      const server = await startServer(["--demo"]);
      await use(server);
      await stopServer(server);
      rmSync(server.directory, { recursive: true, force: true });
    },
    { scope: "worker" },
  ],
  demo: async ({ server, page }, use) => {
    const complaints: string[] = [];
    page.on("pageerror", (error) => complaints.push(String(error)));
    page.on("console", (message) => {
      if (message.type() === "error" && !/status of 4\d\d/.test(message.text())) complaints.push(message.text());
    });
    await use(server.landing);
    expect(complaints, "the browser console stays quiet").toEqual([]);
  },
});

/** Fails on anything that axe calls serious or critical; `rules` looks for these only. */
export async function expectAccessible(page: Page, what: string, rules: string[] = []): Promise<void> {
  // What passes is not told node by node: on a full page that takes longer than the looking.
  const axe = new AxeBuilder({ page }).options({ resultTypes: ["violations"] });
  const { violations } = await (rules.length > 0 ? axe.withRules(rules) : axe).analyze();
  const grave = violations.filter(({ impact }) => impact === "serious" || impact === "critical");
  expect(
    grave.map(({ id, nodes }) => `${what}: ${id} at ${nodes.map((node) => node.target.join(" ")).join(", ")}`),
  ).toEqual([]);
}

export { expect };
