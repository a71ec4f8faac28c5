import { cpSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type Axe from "axe-core";
import { expect, test as base, type Page } from "@playwright/test";
import { startServer, stopServer, type RunningServer } from "./startServer";
import { TEMPLATE } from "./template";

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
  const directory = mkdtempSync(join(tmpdir(), "tejado-e2e-"));
  cpSync(process.env[TEMPLATE]!, directory, { recursive: true });
  const server = await startServer(["--demo"], directory);
  await body(server);
  await stopServer(server);
  rmSync(server.directory, { recursive: true, force: true });
}

/**
 * `demo` is shared by the tests of one worker: what a test keeps on it must not stand in another's way.
 * A test that keeps more than that takes `ownDemo`, a fresh one.
 */
export const test = base.extend<{ demo: string; ownDemo: string }, { server: RunningServer }>({
  server: [async ({}, use) => withServer(use), { scope: "worker", timeout: 300_000 }],
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

/** Discards the draft, and confirms that where it is large. */
export async function discard(page: Page): Promise<void> {
  const button = page.getByRole("button", { name: "Discard", exact: true });
  const confirm = page.getByRole("button", { name: "Discard the draft" });
  // Figures that come in meanwhile may move the button from under the pointer: then it is pressed again.
  await expect(async () => {
    if (await button.isVisible()) await button.click({ timeout: 1000 });
    await expect(confirm.or(page.getByText(/^Nothing in hand/))).toBeVisible({ timeout: 2000 });
  }).toPass();
  if (await confirm.isVisible()) await confirm.click();
}

export { expect };
