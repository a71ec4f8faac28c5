import { expect, request } from "@playwright/test";
import { rmSync } from "node:fs";
import { test } from "./fixtures";
import { startServer, stopServer } from "./startServer";

/** A raster that takes some seconds to read. */
const SIDE = 1400;
const raster = () => {
  const row = Array.from({ length: SIDE }, (_, i) => String(100 + (i % 50))).join(" ");
  return `ncols ${SIDE}\nnrows ${SIDE}\nxllcorner 20\nyllcorner -1\ncellsize 0.0002\n${`${row}\n`.repeat(SIDE)}`;
};

interface Job {
  id: string;
  state: string;
  doneShare: number;
  message: string;
}

test("an import goes on after the server was killed, and is kept once", async ({ page }) => {
  test.setTimeout(120_000);
  const first = await startServer(["--demo"]);
  const plan = new URL(first.landing).pathname;
  const headers = { Origin: first.origin };
  const api = await request.newContext({ baseURL: first.origin, extraHTTPHeaders: headers });
  const sent = await api.post("/uploads", {
    data: Buffer.from(raster()),
    headers: { "Content-Type": "application/octet-stream" },
  });
  const { uploadId } = (await sent.json()) as { uploadId: string };
  const order = { kind: "bare", files: [{ uploadId, name: "wide.asc" }], epsg: 4326, legend: null };
  const job = (await (await api.post(`${plan}/terrain`, { data: order })).json()) as Job;
  const standing = async () => (await (await api.get(`${plan}/jobs/${job.id}`)).json()) as Job;
  await expect.poll(async () => (await standing()).doneShare, { intervals: [20] }).toBeGreaterThan(0);
  expect((await standing()).state).toBe("running");
  const killed = new Promise((resolve) => first.process.once("exit", resolve));
  first.process.kill("SIGKILL");
  await killed;

  const second = await startServer(["--demo"], first.directory);
  const again = await request.newContext({ baseURL: second.origin, extraHTTPHeaders: { Origin: second.origin } });
  const later = async () => (await (await again.get(`${plan}/jobs/${job.id}`)).json()) as Job;
  await expect.poll(async () => (await later()).state, { timeout: 60_000 }).toBe("done");
  expect((await later()).message).toContain(`Took 1 raster with ${SIDE * SIDE} cells`);
  await page.goto(`${second.origin}${plan}/import?what=terrain`);
  await expect(page.getByRole("cell", { name: "wide.asc", exact: true })).toHaveCount(1);
  await stopServer(second);
  rmSync(first.directory, { recursive: true, force: true });
});
