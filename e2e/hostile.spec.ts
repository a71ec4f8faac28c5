import { FORM_BYTES, RULES } from "../app/access/rules";
import { addressOf, PATTERNS } from "./addresses";
import { signInAs, withOpenServer } from "./accounts";
import { expect, test } from "./fixtures";
import { HealthWatch } from "./health";

/** How long the server's main thread may keep /health waiting while a body is read, on any machine, ms. */
const LEAST_MS = 200;
/** The same on this machine: three times what its processor takes for the longest text that any address takes. */
function mostMs(): number {
  const bytes = Math.max(...Object.values(RULES).map((rule) => rule.bytes ?? FORM_BYTES));
  const text = `"${repeated("\\u0041", bytes)}"`;
  const before = process.cpuUsage();
  JSON.parse(text);
  const { user, system } = process.cpuUsage(before);
  return Math.max(LEAST_MS, (3 * (user + system)) / 1000);
}
/** Other work of the server may fall into one try: a body that holds it up does so each time. */
const TRIES = 3;

const repeated = (piece: string, bytes: number) => piece.repeat(Math.floor(bytes / piece.length));
const URL_ENCODED = "application/x-www-form-urlencoded";
/** Bodies that take long to read, as long as an address takes. */
const BODIES: [what: string, type: string, make: (bytes: number) => string][] = [
  ["lists", "application/json", (bytes) => `[${repeated("[],", bytes - 4)}[]]`],
  ["objects", "application/json", (bytes) => `[${repeated("{},", bytes - 4)}{}]`],
  ["lists within lists", "application/json", (bytes) => `${repeated("[", bytes / 2)}${repeated("]", bytes / 2)}`],
  [
    "a thousand thousand names",
    "application/json",
    (bytes) => `{${Array.from({ length: Math.floor(bytes / 14) }, (_, i) => `"k${i}":0`).join()}}`,
  ],
  [
    "a change of rows that are none",
    "application/json",
    (bytes) => `{"intent":"keep","what":"x","patches":[${repeated("[],", Math.min(bytes, 700_000) - 60)}[]]}`,
  ],
  ["a long text", "application/json", (bytes) => `{"intent":"keep","what":"${repeated("\\u0041", bytes - 40)}"}`],
  ["fields", URL_ENCODED, (bytes) => repeated("a&", bytes)],
  ["escapes", URL_ENCODED, (bytes) => `a=${repeated("%41", bytes - 2)}`],
  [
    "parts",
    "multipart/form-data; boundary=x",
    (bytes) => `${repeated('--x\r\nContent-Disposition: form-data; name="a"\r\n\r\n\r\n', bytes - 10)}--x--\r\n`,
  ],
  [
    "headers of a part",
    "multipart/form-data; boundary=x",
    (bytes) =>
      `--x\r\n${repeated("A: b\r\n", bytes - 80)}Content-Disposition: form-data; name="a"\r\n\r\n\r\n--x--\r\n`,
  ],
];

test("no body, signed in or not, holds up the server, and one that is too long is refused unread", async () => {
  test.setTimeout(600_000);
  await withOpenServer(async ({ base, process: server }) => {
    const keeper = await signInAs(base, "ana");
    const wrong: string[] = [];
    let worstMs = 0;
    const MOST_MS = mostMs();
    const health = new HealthWatch(base, server.pid!);
    /** Sends a body; gives the longest that /health waited meanwhile, and what came back. */
    const send = async (path: string, type: string, body: string, cookie: string) => {
      await health.worstMs();
      const status = await fetch(base + path, {
        ...{ method: "POST", body, redirect: "manual", signal: AbortSignal.timeout(30_000) },
        headers: { cookie, origin: base, "content-type": type },
      }).then(
        async (response) => {
          await response.body?.cancel();
          return response.status;
        },
        // A server that refuses a body unread may close before all of it was sent.
        () => 0,
      );
      return { waitedMs: await health.worstMs(), status };
    };
    const tryOut = async (what: string, path: string, type: string, body: string, cookie: string) => {
      let best = await send(path, type, body, cookie);
      for (let again = 1; again < TRIES && best.waitedMs > MOST_MS; again++) {
        const next = await send(path, type, body, cookie);
        if (next.waitedMs < best.waitedMs) best = next;
      }
      worstMs = Math.max(worstMs, best.waitedMs);
      if (best.waitedMs > MOST_MS) wrong.push(`${what} to ${path}: /health waited ${Math.round(best.waitedMs)} ms`);
      if (best.status >= 500) wrong.push(`${what} to ${path}: ${best.status}`);
      return best.status;
    };
    // What begins long work comes last: that work takes a core from everybody.
    const begins = (pattern: string) => Number(pattern.endsWith("/export"));
    const patterns = [...PATTERNS, "/plans/:planId/watch/samples"].sort((x, y) => begins(x) - begins(y));
    for (const pattern of patterns)
      for (const [i, [what, type, make]] of BODIES.entries()) {
        const body = make(RULES[pattern]?.bytes ?? FORM_BYTES);
        await tryOut(`${what} by the keeper`, addressOf(pattern), type, body, keeper);
        // Nobody's is refused before what it is matters: one of each type will do.
        const isFirst = BODIES.findIndex(([, other]) => other === type) === i;
        if (isFirst) await tryOut(`${what} by nobody`, addressOf(pattern), type, body, "");
      }
    for (const path of ["/passkeys", "/sign-in"])
      for (const cookie of ["", keeper]) {
        const status = await tryOut("62 MB", path, "application/json", `[${repeated("[],", 62e6)}[]]`, cookie);
        expect([413, 0]).toContain(status);
      }
    await health.end();
    console.log(`/health waited ${Math.round(worstMs)} ms at most, of ${Math.round(MOST_MS)}`);
    expect(wrong).toEqual([]);
  });
});
