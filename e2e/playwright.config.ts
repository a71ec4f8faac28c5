import { defineConfig } from "@playwright/test";

const CHROMIUM_FLAGS = [
  "--no-sandbox",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];
const chromium = {
  launchOptions: { executablePath: process.env.TEJADO_CHROMIUM ?? "/usr/bin/chromium", args: CHROMIUM_FLAGS },
  viewport: { width: 1280, height: 800 },
};

export default defineConfig({
  testDir: ".",
  globalSetup: "./template.ts",
  // Each worker has a server and a data directory of its own (see fixtures.ts).
  workers: 2,
  fullyParallel: false,
  // Generous: a machine that does other work is slow, and what does not come at all fails either way.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  reporter: [["list"], ["json"]],
  outputDir: "../test-results",
  use: chromium,
  projects: process.env.TEJADO_SCREENSHOTS
    ? [{ name: "screenshots", testMatch: "screenshots.ts" }]
    : [{ name: "interface", testMatch: "*.spec.ts" }],
});
