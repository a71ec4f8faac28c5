import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import express from "express";
import { preferencesCookie, preferencesSchema } from "../app/shared/preferences";
import { hostNames, isLoopback, knownHost } from "./hosts";
import { headers, namedProxy, nonce, plainAddress, sameOrigin, statedLength } from "./security";

let origin: string;
let server: ReturnType<ReturnType<typeof express>["listen"]>;
beforeAll(async () => {
  const app = express();
  app.set("case sensitive routing", true);
  app.use(plainAddress, nonce, headers, knownHost(["127.0.0.1"]), sameOrigin, statedLength);
  app.get(/^\/plans\//, (request, response) => void response.send(request.originalUrl));
  app.all("/", (_request, response) => void response.send("taken"));
  await new Promise<void>((resolve) => (server = app.listen(0, "127.0.0.1", () => resolve())));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(() => new Promise((resolve) => server.close(resolve)));

const policyOf = async (cookie = "") =>
  (await fetch(origin, { headers: { cookie } })).headers.get("content-security-policy")!.split(";");

test("each page has a nonce of its own, no inline script, and no foreign origin", async () => {
  const scripts = async () => (await policyOf()).find((part) => part.startsWith("script-src"))!;
  const [one, two] = [await scripts(), await scripts()];
  expect(one).toMatch(/^script-src 'self' 'nonce-[\w+/=]+'$/);
  expect(one).not.toBe(two);
  expect(await policyOf()).toEqual(
    expect.arrayContaining(["img-src 'self' data: blob: 'self'", "frame-ancestors 'none'"]),
  );
});

test("a tile server that the user named is the one foreign origin for pictures", async () => {
  const cookie = preferencesCookie(
    preferencesSchema.parse({ tileUrl: "https://tiles.test:8443/a/{z}/{x}/{y}.png" }),
  ).split(";")[0]!;
  const policy = await policyOf(cookie);
  expect(policy).toContain("img-src 'self' data: blob: https://tiles.test:8443");
  expect(policy).toContain("connect-src 'self'");
  expect(await policyOf("tejado=%7B%22tileUrl%22%3A%22https%3A%2F%2Fx.test%22%7D")).toContain(
    "img-src 'self' data: blob: 'self'",
  );
});

test("changes are taken from our own pages only", async () => {
  const post = (extra: Record<string, string>) =>
    fetch(origin, { method: "POST", body: "x", headers: extra }).then(({ status }) => status);
  expect(await post({ origin })).toBe(200);
  expect(await post({ origin: "http://elsewhere.test" })).toBe(403);
  expect(await post({ origin: "null" })).toBe(403);
  // What https serves under this name is another site.
  expect(await post({ origin: origin.replace("http:", "https:") })).toBe(403);
  expect(await post({})).toBe(403);
});

test("an address has one spelling before it is checked: needless escapes and doubled slashes are taken out", async () => {
  const spelled = async (path: string) => {
    const response = await fetch(origin + path);
    return response.ok ? response.text() : response.status;
  };
  expect(await spelled("/%70lans/a%20b/%63hanges?x=%20+")).toBe("/plans/a%20b/changes?x=%20+");
  expect(await spelled("/plans//a:b@c/x")).toBe("/plans/a:b@c/x");
  expect(await spelled("/plans/a%2Fb")).toBe("/plans/a%2Fb");
  expect(await spelled("/PLANS/a")).toBe(404);
  expect([await spelled("/plans/%ff"), await spelled("/plans/%00")]).toEqual([400, 400]);
});

test("a proxy that does not say how it was reached is told which header it leaves out", async () => {
  const asked: unknown[] = [];
  const answer = (path: string, sent: Record<string, string>) => {
    asked.length = 0;
    const response = {
      status: (code: number) => (asked.push(code), response),
      type: () => response,
      send: (text: string) => void asked.push(text),
    };
    namedProxy({ path, headers: sent } as never, response as never, () => void asked.push("on"));
    return [...asked];
  };
  expect(answer("/plans/x", { "x-forwarded-proto": "https" })).toEqual(["on"]);
  expect(answer("/health", {})).toEqual(["on"]);
  expect(answer("/plans/x", {})).toEqual([400, expect.stringContaining("have it set X-Forwarded-Proto")]);
});

test("a body must say how long it is", async () => {
  const endless = new ReadableStream({
    start(controller) {
      controller.enqueue(new TextEncoder().encode("x"));
      controller.close();
    },
  });
  const init = { method: "POST", body: endless, duplex: "half", headers: { origin } } as RequestInit;
  expect((await fetch(origin, init)).status).toBe(411);
});

test("a Tejado answers by its own names and those that were given, whatever their letters and port", () => {
  expect(hostNames({ host: "127.0.0.1", names: [] })).toEqual(
    expect.arrayContaining(["localhost", "127.0.0.1", "[::1]"]),
  );
  expect(hostNames({ host: "0.0.0.0", names: ["Plans.Example.net"] })).toEqual(["plans.example.net"]);
  expect(hostNames({ host: "fd00::7", names: [] })).toEqual(["[fd00::7]"]);
  expect([isLoopback("127.0.0.1"), isLoopback("0.0.0.0"), isLoopback("192.168.1.4")]).toEqual([true, false, false]);
});
