import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { largeSibling } from "#demo";
import { subscriberThing, writeThings } from "#formats/export";
import { startServer, stopServer } from "../e2e/startServer";
import { inBrowser, printFrames, watch, watched } from "./browser";

/** Imports 10 000 subscribers from CSV in the real browser, then scrolls and filters them in the register. */
const folder = mkdtempSync(join(tmpdir(), "tejado-bench-"));
const file = join(folder, "large.csv");
writeFileSync(file, writeThings(largeSibling().rows.subscribers.map(subscriberThing), "csv"));
const server = await startServer([]);
try {
  await inBrowser(async (page) => {
    await page.goto(server.origin);
    await page.getByLabel("Name").fill("Bench");
    await page.getByRole("button", { name: "Begin" }).click();
    await page.getByLabel("Places file").waitFor();
    await watch(page);
    let start = performance.now();
    await page
      .getByLabel("Places file")
      // By its path: handed over as bytes, the driver would unpack it on the page's own thread.
      .setInputFiles(file);
    await page.getByRole("button", { name: /^\+ \d{3,} new/ }).waitFor();
    const previewed = performance.now();
    await page.getByLabel("Perhaps the same within").fill("0");
    await page.getByRole("button", { name: "Keep 10000 places" }).waitFor();
    const chosen = performance.now();
    await page.getByRole("button", { name: "Keep 10000 places" }).click();
    await page.getByText("large.csv: 10000 new").waitFor();
    const end = performance.now();
    const seconds = (previewed - start + end - chosen) / 1000;
    console.log(
      `10 000 subscribers: looked over in ${((previewed - start) / 1000).toFixed(2)} s, kept in ${((end - chosen) / 1000).toFixed(2)} s; bound 5 s: ${(5 / seconds).toFixed(1)} times under`,
    );
    printFrames("  the page meanwhile (bound 100 ms)", await watched(page));

    await page.goto(`${page.url().replace(/\/import.*/, "")}/register`, { waitUntil: "networkidle" });
    await page.getByText("10000 shown").waitFor();
    await watch(page);
    const grid = page.getByRole("grid");
    const box = (await grid.boundingBox())!;
    await page.mouse.move(box.x + 300, box.y + 300);
    // A wheel turned as fast as a finger turns it: a notch each frame.
    for (let i = 0; i < 200; i++) {
      await page.mouse.wheel(0, 120);
      await page.waitForTimeout(16);
    }
    printFrames("scrolling 10 000 rows (bound 60 frames a second)", await watched(page));
    // From the key to the frame that shows its effect, in the page's own clock.
    const times: number[] = [];
    for (const word of ["House 99", "House 1234", "roof", "zzz", ""]) {
      times.push(
        await page.evaluate<number>(`new Promise((resolve) => {
          const input = document.querySelector("input[type=search]");
          Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value").set.call(input, ${JSON.stringify(word)});
          const start = performance.now();
          input.dispatchEvent(new Event("input", { bubbles: true }));
          resolve(performance.now() - start);
        })`),
      );
      await page.waitForTimeout(200);
    }
    start = Math.max(...times);
    console.log(
      `filtering 10 000 rows: ${times.map((time) => time.toFixed(1)).join(", ")} ms; bound 50 ms: ${(50 / start).toFixed(1)} times under`,
    );
  });
} finally {
  await stopServer(server);
  rmSync(folder, { recursive: true, force: true });
}
