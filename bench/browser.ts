import { chromium, type Page } from "@playwright/test";

/** Runs `work` in a page of the real browser and closes it. */
export async function inBrowser(work: (page: Page) => Promise<void>): Promise<void> {
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
  try {
    await work(await browser.newPage({ viewport: { width: 1280, height: 800 } }));
  } finally {
    await browser.close();
  }
}

export interface Watched {
  /** Time between frames, ms, rising. */
  frames: number[];
  /** Stretches of over 50 ms in which the page answered nobody, ms. */
  long: number[];
}

/** Begins to note frames and long tasks. As text, for what runs this file adds helpers to functions that the page does not have. */
export async function watch(page: Page): Promise<void> {
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
}

export async function watched(page: Page): Promise<Watched> {
  const { frames, long } = await page.evaluate<Watched>("window.seen");
  return { frames: frames.slice(2).sort((p, q) => p - q), long };
}

export function printFrames(name: string, { frames, long }: Watched): void {
  const at = (share: number) => frames[Math.min(frames.length - 1, Math.floor(share * frames.length))]!.toFixed(1);
  console.log(
    `${name}: ${frames.length} frames, median ${at(0.5)} ms, 95th ${at(0.95)} ms, longest ${at(1)} ms; tasks over 50 ms: ${long.length}${long.length > 0 ? `, longest ${Math.max(...long).toFixed(0)} ms` : ""}`,
  );
}
