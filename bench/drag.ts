import { startServer, stopServer } from "../e2e/startServer";
import { inBrowser, printFrames, watch, watched } from "./browser";

/** Drags a mast head on the demo's 16 km bridge in the real browser and prints how long its frames took. */
const server = await startServer(["--demo"]);
try {
  await inBrowser(async (page) => {
    await page.goto(`${server.landing}/paths?sel=link:link-long`, { waitUntil: "networkidle" });
    const head = page.getByRole("slider", { name: "Height at Lighthouse" });
    const box = (await head.locator("circle").last().boundingBox())!;
    const x = box.x + box.width / 2;
    const y = box.y + box.height / 2;
    await watch(page);
    await page.mouse.move(x, y);
    await page.mouse.down();
    for (let i = 0; i < 120; i++) {
      await page.mouse.move(x, y - 12 * Math.sin(i / 6));
      await page.waitForTimeout(8);
    }
    await page.mouse.up();
    printFrames("drag in the browser", await watched(page));
  });
} finally {
  await stopServer(server);
}
