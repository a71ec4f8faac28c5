import { chromium } from "@playwright/test";
import { startServer, stopServer } from "../e2e/fixtures";

/** Drags a mast head on the demo's 16 km bridge in the real browser and prints how long its frames took. */
const server = await startServer(["--demo"]);
try {
  const browser = await chromium.launch({
    executablePath: process.env.TEJADO_CHROMIUM ?? "/usr/bin/chromium",
    args: [
      "--no-sandbox",
      "--disable-quic",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${server.landing}/paths?sel=link:link-long`, { waitUntil: "networkidle" });
  const head = page.getByRole("slider", { name: "Height at Lighthouse" });
  const box = (await head.locator("circle").last().boundingBox())!;
  const x = box.x + box.width / 2;
  const y = box.y + box.height / 2;
  // As text, for what runs this file adds helpers to functions that the page does not have.
  await page.evaluate(`
  window.seen = { frames: [], long: [] };
  new PerformanceObserver((list) => seen.long.push(...list.getEntries().map((entry) => entry.duration))).observe({ entryTypes: ["longtask"] });
  let before = performance.now();
  requestAnimationFrame(function tick(now) {
    seen.frames.push(now - before);
    before = now;
    requestAnimationFrame(tick);
  });
`);
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 0; i < 120; i++) {
    await page.mouse.move(x, y - 12 * Math.sin(i / 6));
    await page.waitForTimeout(8);
  }
  await page.mouse.up();
  const { frames, long } = await page.evaluate<{ frames: number[]; long: number[] }>("window.seen");
  const sorted = frames.slice(2).sort((p, q) => p - q);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!.toFixed(1);
  console.log(
    `drag in the browser: ${sorted.length} frames, median ${at(0.5)} ms, 95th ${at(0.95)} ms, longest ${at(1)} ms; tasks over 50 ms: ${long.length}`,
  );
  await browser.close();
} finally {
  await stopServer(server);
}
