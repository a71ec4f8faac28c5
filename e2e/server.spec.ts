import { spawnSync } from "node:child_process";
import { rmSync } from "node:fs";
import { dirname } from "node:path";
import { fileURLToPath } from "node:url";
import { expect, test } from "./fixtures";
import { startServer, stopServer } from "./startServer";

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

test("answers carry security headers and no script runs without its nonce", async ({ request, server }) => {
  const response = await request.get(`${server.origin}/plans/isla-orvena/paths`);
  const headers = response.headers();
  const policy = headers["content-security-policy"]!;
  expect(policy).toContain("script-src 'self' 'nonce-");
  expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/);
  expect(policy).toContain("frame-ancestors 'none'");
  expect(headers["x-content-type-options"]).toBe("nosniff");
  expect(headers["referrer-policy"]).toBe("same-origin");
  const html = await response.text();
  expect(html.match(/<script(?![^>]*nonce=)/g)).toBeNull();
  expect((await request.get(`${server.origin}/health`)).ok()).toBe(true);
});

test("changes from elsewhere, foreign hosts and oversized bodies are refused", async ({ request, server }) => {
  const action = `${server.origin}/plans/isla-orvena/changes`;
  const foreign = await request.post(action, {
    form: { intent: "undo" },
    headers: { origin: "http://elsewhere.test" },
  });
  expect(foreign.status()).toBe(403);
  const bare = await request.post(action, { form: { intent: "undo" } });
  expect(bare.status()).toBe(403);
  const host = await request.get(server.origin, { headers: { host: "elsewhere.test" } });
  expect(host.status()).toBe(421);
  const large = await request
    .post(action, { data: Buffer.alloc(65 * 1024 * 1024), headers: { origin: server.origin } })
    .catch(() => null);
  if (large) expect(large.status()).toBe(413);
  const keep = (patches: unknown) =>
    request.post(`${server.origin}/plans/isla-orvena/changes`, {
      data: { intent: "keep", what: "x", patches },
      headers: { origin: server.origin },
    });
  const nonsense = await keep([{ kind: "sites", id: "site-ridge", set: { name: "" } }]);
  expect(nonsense.status()).toBe(400);
  expect(await nonsense.json()).toMatchObject({
    ok: false,
    message: "Not kept: sites site-ridge, name: needs a name.",
  });
  // Unknown kit is named by its field, and no database text reaches anybody.
  const unknown = await keep([{ kind: "radios", id: "ap-ridge-e", set: { radioModelId: "nothing" } }]);
  expect(unknown.status()).toBe(400);
  expect(((await unknown.json()) as { message: string }).message).toContain(
    'radioModelId: Ridge east: there is no radio "nothing" in the library',
  );
});

test("starts empty, refuses a second process, stops cleanly, and starts again with its data", async () => {
  const first = await startServer([]);
  const second = spawnSync(process.execPath, ["scripts/start.mjs", "--port", "0"], {
    cwd: ROOT,
    env: { ...process.env, TEJADO_DATA: first.directory },
    encoding: "utf8",
  });
  expect(second.status).toBe(1);
  expect(second.stderr).toContain("is in use by another Tejado process");
  expect(await (await fetch(first.origin)).text()).toContain("Lay out the demo");
  expect(await stopServer(first)).toBe(0);
  const again = await startServer(["--demo"], first.directory);
  expect(again.landing).toContain("/plans/isla-orvena");
  expect(await stopServer(again)).toBe(0);
  rmSync(first.directory, { recursive: true, force: true });
});
