import { get } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import express, { type Response as Answer } from "express";
import { inTurn, ownPagesOnly } from "./costly";

let origin: string;
let server: ReturnType<ReturnType<typeof express>["listen"]>;
const held: Answer[] = [];
let reached = 0;
beforeAll(async () => {
  const app = express();
  app.use(ownPagesOnly, inTurn());
  app.get("/plans/held", (_request, response) => {
    reached++;
    held.push(response);
  });
  app.use((_request, response) => void response.send("here"));
  await new Promise<void>((resolve) => (server = app.listen(0, "127.0.0.1", () => resolve())));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => {
  server.closeAllConnections();
  return new Promise((resolve) => server.close(resolve));
});
/** Asked by hand: fetch says itself how it asks. */
const status = (path: string, headers: Record<string, string> = {}) =>
  new Promise<number>((resolve) => {
    get(origin + path, { headers }, (answer) => {
      answer.resume();
      resolve(answer.statusCode!);
    });
  });
const from = (site: string, mode = "no-cors", dest = "image") => ({
  ...{ "sec-fetch-site": site, "sec-fetch-mode": mode, "sec-fetch-dest": dest },
});

test("a foreign page's pictures, scripts and frames get nothing of a plan; a link from elsewhere opens a page, but no file", async () => {
  expect(await status("/plans/a/relief/1/2/3", from("cross-site"))).toBe(403);
  expect(await status("/plans/a/profiles?pair=-89,0,89,1", from("same-site"))).toBe(403);
  expect(await status("/plans/a/survey", from("cross-site", "navigate", "iframe"))).toBe(403);
  expect(await status("/plans/a/survey", { origin: "https://elsewhere.test" })).toBe(403);
  expect(await status("/plans/a/survey", from("cross-site", "navigate", "document"))).toBe(200);
  expect(await status("/plans/a/kit/bill.csv", from("cross-site", "navigate", "document"))).toBe(403);
  expect(await status("/plans/a/export/file", from("cross-site", "navigate", "document"))).toBe(403);
  expect(await status("/plans/a/kit/bill.csv", from("same-origin", "navigate", "document"))).toBe(200);
  expect(await status("/plans/a/kit/bill.csv", from("none", "navigate", "document"))).toBe(200);
  expect(await status("/plans/a/relief/1/2/3")).toBe(200);
  expect(await status("/health", from("cross-site"))).toBe(200);
});

test("one asker's herd waits for itself: twelve are worked on, some wait, more are sent away, and all that waited are answered", async () => {
  const sentAway: number[] = [];
  const answers = Array.from({ length: 300 }, () =>
    status("/plans/held").then((one) => {
      if (one === 429) sentAway.push(one);
      return one;
    }),
  );
  const until = async (isSo: () => boolean) => {
    while (!isSo()) await new Promise((resolve) => setTimeout(resolve, 5));
  };
  await until(() => sentAway.length === 300 - 12 - 240);
  expect(reached).toBe(12);
  // What is no plan is answered meanwhile.
  expect(await status("/health")).toBe(200);
  const release = setInterval(() => held.splice(0).forEach((one) => one.send("done")), 2);
  const statuses = await Promise.all(answers);
  clearInterval(release);
  expect(statuses.filter((one) => one === 200).length).toBe(252);
});
