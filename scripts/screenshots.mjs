// npm run screenshots: one picture of each main view, from a fresh demo, into docs/screenshots.
import { ensureBuilt, ensureInstalled, run } from "./prepare.mjs";

ensureInstalled();
ensureBuilt();
process.exit(
  run("npx", ["playwright", "test", "-c", "e2e/playwright.config.ts", "--project", "screenshots"], {
    env: { ...process.env, TEJADO_SCREENSHOTS: "1" },
  })
    ? 0
    : 1,
);
