// How much a phone has to fetch before the crew's part stands, and how fast it opens again without signal.
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { extname, join } from "node:path";
import { gzipSync } from "node:zlib";
import { chromium } from "@playwright/test";
import { startServer, stopServer } from "../e2e/startServer";
import { print } from "./print";

const SHIPPED = new Set([".html", ".js", ".css", ".woff2", ".webmanifest"]);
const server = await startServer(["--demo"]);
const folder = mkdtempSync(join(tmpdir(), "tejado-field-"));
const build = "build/field";
const files = readdirSync(build, { recursive: true, encoding: "utf8" }).filter((name) => SHIPPED.has(extname(name)));
const bytes = files.reduce((sum, name) => {
  const data = readFileSync(join(build, name));
  // Fonts are packed already.
  return sum + (name.endsWith(".woff2") ? data.length : gzipSync(data).length);
}, 0);
print("everything that the crew's part is made of, packed", bytes / 1000, "kB", 300);

const phone = await chromium.launchPersistentContext(folder, {
  executablePath: process.env.TEJADO_CHROMIUM ?? "/usr/bin/chromium",
  args: ["--no-sandbox"],
  viewport: { width: 390, height: 844 },
});
const page = await phone.newPage();
await page.goto(`${server.origin}/field/#/plan/isla-orvena`);
await page.getByRole("button", { name: "Take along" }).first().click();
await page
  .getByRole("link", { name: /^I am at/ })
  .first()
  .waitFor();
await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
await phone.setOffline(true);
const taken: number[] = [];
for (let i = 0; i < 5; i++) {
  const start = performance.now();
  await page.goto(`${server.origin}/field/#/job/isla-orvena/job-1/a/aim`);
  await page.reload();
  await page.getByRole("button", { name: "Log it" }).waitFor();
  taken.push(performance.now() - start);
}
print("a job opens without signal, median of five", taken.sort((x, y) => x - y)[2]!, "ms", 1000);
await phone.close();
await stopServer(server);
rmSync(folder, { recursive: true, force: true });
