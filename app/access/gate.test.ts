import { afterAll, expect, test } from "@jest/globals";
import { RouterContextProvider } from "react-router";
import { accessInContext } from "./context";
import { gate } from "./gate.server";
import { FORM_BYTES, RULES } from "./rules";

const held = globalThis as { tejadoStore?: unknown };
const before = held.tejadoStore;
afterAll(() => {
  held.tejadoStore = before;
});

const KEEPER = { id: "a", login: "ana", name: "Ana", isKeeper: true };
/** What the gate answers to a body of some length; a refusal as its status and words. */
async function asked(
  pattern: string,
  bytes: number,
  { account = null as typeof KEEPER | null, answer = () => new Response("answered") } = {},
): Promise<[number, string, string | null]> {
  const context = new RouterContextProvider();
  context.set(accessInContext, { isOpen: account !== null, isSecure: false, account, address: "10.0.0.7" });
  const request = new Request(`http://localhost${pattern}`, {
    method: "POST",
    headers: { "content-length": String(bytes) },
  });
  const given = { request, context, pattern, params: {} } as unknown as Parameters<typeof gate>[0];
  try {
    const response = (await gate(given, () => Promise.resolve(answer()))) as Response;
    return [response.status, await response.text(), response.headers.get("cache-control")];
  } catch (thrown) {
    const { data, init } = thrown as { data: string; init: { status: number } };
    return [init.status, data, null];
  }
}

test("each address refuses bodies over its limit, with and without accounts", async () => {
  for (const account of [null, KEEPER])
    for (const pattern of ["/sign-in", "/passkeys", "/plans/:planId/changes", "/plans/:planId/photos"]) {
      const most = RULES[pattern]!.bytes ?? FORM_BYTES;
      expect((await asked(pattern, most, { account }))[0]).toBe(200);
      expect((await asked(pattern, most + 1, { account })).slice(0, 2)).toEqual([
        413,
        `The request has ${most + 1} bytes; at most ${most} are taken here. Nothing of it was kept.`,
      ]);
    }
  const open = Object.values(RULES).filter(({ write }) => write === "anyone");
  expect(open.length).toBeGreaterThan(3);
  expect(open.every(({ bytes = FORM_BYTES }) => bytes <= 64 * 1024)).toBe(true);
});

test("a failure on a full disk says that it is full; any other stays what it is", async () => {
  const failing = { answer: () => new Response("Unexpected Server Error", { status: 500 }) };
  held.tejadoStore = Promise.resolve({ roomProblem: () => "The disk has 20 MB left." });
  expect(await asked("/people", 10, failing)).toEqual([507, "The disk has 20 MB left.", null]);
  expect((await asked("/people", 10))[0]).toBe(200);
  held.tejadoStore = Promise.resolve({ roomProblem: () => null });
  expect((await asked("/people", 10, failing))[0]).toBe(500);
});

test("where people sign in no page is stored, unless its route says how long it may be", async () => {
  expect((await asked("/people", 10, { account: KEEPER }))[2]).toBe("no-store");
  expect((await asked("/people", 10))[2]).toBeNull();
  const dated = () => new Response("", { headers: { "cache-control": "no-cache" } });
  expect((await asked("/people", 10, { account: KEEPER, answer: dated }))[2]).toBe("no-cache");
});
