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
  await expect.poll(async () => (await later()).state).toBe("done");
  expect((await later()).message).toContain(`Took 1 raster with ${SIDE * SIDE} cells`);
  await page.goto(`${second.origin}${plan}/import?what=terrain`);
  await expect(page.getByRole("cell", { name: "wide.asc", exact: true })).toHaveCount(1);
  await stopServer(second);
  rmSync(first.directory, { recursive: true, force: true });
});

const HOUR_MS = 3_600_000;
/** Hours that are reported, one figure each. */
const REPORTED = 200;

test("what was acknowledged of devices' reports outlives a killed server, rolled up or not, and nothing counts twice", async ({
  page,
}) => {
  const first = await startServer(["--demo"]);
  const plan = new URL(first.landing).pathname;
  await page.goto(`${first.landing}/monitoring?view=sources`);
  await page.getByLabel("Source").selectOption("devices");
  await page.getByRole("button", { name: "Drop it and change" }).click();
  await page.getByRole("button", { name: "Make a token" }).click();
  const token = await page.getByLabel("Shown once: only its fingerprint is kept").inputValue();
  const headers = { "Content-Type": "application/json", Authorization: `Bearer ${token}` };
  const fromHour = Math.floor(Date.now() / HOUR_MS) - REPORTED;
  const levelOf = (i: number) => -45 - (i % 40);
  const send = async (origin: string, i: number, level0Dbm: number) => {
    const at = new Date((fromHour + i) * HOUR_MS + 60_000).toISOString();
    const body = JSON.stringify([{ series: "link-medium/a", at, level0Dbm }]);
    const answer = await fetch(`${origin}${plan}/watch/samples`, { method: "POST", headers, body }).catch(() => null);
    return answer?.ok === true;
  };
  const kept: number[] = [];
  const killed = new Promise((resolve) => first.process.once("exit", resolve));
  for (let i = 0; i < REPORTED; i++) {
    // A first part is rolled up already, a second one while it is killed, a third only waits.
    if (i === 60 || i === 110) await page.getByRole("button", { name: "Look now" }).click({ noWaitAfter: true });
    if (i === 140) first.process.kill("SIGKILL");
    if (await send(first.origin, i, levelOf(i))) kept.push(i);
    else break;
  }
  await killed;
  expect(kept.length).toBeGreaterThanOrEqual(139);

  const second = await startServer(["--demo"], first.directory);
  const levels = async () => {
    const chart = (await (await fetch(`${second.origin}${plan}/watch/links/link-medium?days=11`)).json()) as {
      fromMs: number;
      stepMs: number;
      levelA: (number | null)[];
    };
    return Array.from(
      { length: REPORTED },
      (_, i) => chart.levelA[((fromHour + i) * HOUR_MS - chart.fromMs) / chart.stepMs] ?? null,
    );
  };
  const look = async () => {
    await page.goto(`${second.origin}${plan}/monitoring?view=sources`);
    await page.getByRole("button", { name: "Look now" }).click();
  };
  await look();
  await expect.poll(async () => (await levels()).slice(0, kept.length)).toEqual(kept.map(levelOf));
  // Of the report that was on its way nobody knows; of those after it nothing was made up.
  expect((await levels()).slice(kept.length + 1)).toEqual(
    Array.from({ length: REPORTED - kept.length - 1 }, () => null),
  );
  // A device that sends all of it once more, and otherwise, changes nothing: the rest is new.
  for (let i = 0; i < REPORTED; i++)
    expect(await send(second.origin, i, i <= kept.length ? -99 : levelOf(i))).toBe(true);
  await look();
  await expect.poll(async () => (await levels()).at(-1)).toBe(levelOf(REPORTED - 1));
  expect((await levels()).slice(0, kept.length)).toEqual(kept.map(levelOf));
  await stopServer(second);
  rmSync(first.directory, { recursive: true, force: true });
});
