import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { largeSibling } from "#demo";
import { createPlan, openStore, packLayer, signedBy } from "#store";
import { startServer, stopServer } from "../e2e/startServer";
import { inBrowser, printFrames, watch, watched } from "./browser";

/**
 * What is dragged in the real browser, and how long its frames took: a mast head on the demo's 16 km bridge, and a sector's channel, on
 * the demo and in a plan of 10 000 customers.
 */
async function dragged(page: Page, [x, y]: [number, number], to: (turn: number) => [number, number], name: string) {
  await watch(page);
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let turn = 0; turn < 120; turn++) {
    const [dx, dy] = to(turn);
    await page.mouse.move(x + dx, y + dy);
    await page.waitForTimeout(8);
  }
  await page.mouse.up();
  printFrames(name, await watched(page));
}

async function dragChannel(page: Page, address: string, name: string) {
  await page.goto(address, { waitUntil: "networkidle" });
  const block = page.locator("[data-channel]").nth(1);
  await block.scrollIntoViewIfNeeded();
  const box = (await block.boundingBox())!;
  const middle: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
  await dragged(page, middle, (turn) => [60 * Math.sin(turn / 12), 0], name);
}

const directory = mkdtempSync(join(tmpdir(), "tejado-drag-"));
const { rows, surface } = largeSibling(167);
const { layer, tiles } = packLayer(rows.plan.id, "ground", "bare", surface);
const store = await openStore(directory);
await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("bench"), "Began", {
  tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
  photos: [],
});
await store.close();
const [demo, large] = [await startServer(["--demo"]), await startServer([], directory)];
try {
  await inBrowser(async (page) => {
    await page.goto(`${demo.landing}/paths?sel=link:link-long`, { waitUntil: "networkidle" });
    const head = page.getByRole("slider", { name: "Height at Lighthouse" });
    const box = (await head.locator("circle").last().boundingBox())!;
    const middle: [number, number] = [box.x + box.width / 2, box.y + box.height / 2];
    await dragged(page, middle, (turn) => [0, -12 * Math.sin(turn / 6)], "a mast head");
    await dragChannel(page, `${demo.landing}/channels`, "a channel, bound 100 ms");
    const at = `${large.origin}/plans/${rows.plan.id}`;
    // Whoever drags has the plan worked out before him.
    await fetch(`${at}/since?revision=1&all=1`).then((response) => response.text());
    await dragChannel(page, `${at}/channels`, "a channel of 60 sectors and 10 000 customers, bound 100 ms");
  });
} finally {
  await stopServer(demo);
  await stopServer(large);
  rmSync(directory, { recursive: true, force: true });
}
