import { afterEach, expect, test } from "@jest/globals";
import { NOT_ANSWERING, request, requestJson } from "./request";

const real = globalThis.fetch;
afterEach(() => {
  globalThis.fetch = real;
});
const answering = (answer: Response | Error) => {
  const asked: [string, RequestInit][] = [];
  globalThis.fetch = ((address: string, init: RequestInit) => {
    asked.push([address, init]);
    return answer instanceof Error ? Promise.reject(answer) : Promise.resolve(answer);
  }) as typeof fetch;
  return asked;
};

test("a question without a body is fetched, one with a body is sent as JSON", async () => {
  const asked = answering(Response.json([1, 2]));
  expect(await requestJson<number[]>("/a")).toEqual([1, 2]);
  answering(Response.json({}));
  expect(asked[0]![1].method).toBeUndefined();
  const sent = answering(Response.json({}));
  await request("/b", { body: { x: 1 } });
  expect(sent[0]![1]).toMatchObject({
    method: "POST",
    body: '{"x":1}',
    headers: { "Content-Type": "application/json" },
  });
  const form = new FormData();
  const filled = answering(Response.json({}));
  await request("/c", { form });
  expect(filled[0]![1]).toMatchObject({ method: "POST", body: form });
  expect(filled[0]![1].headers).toEqual({});
});

test("a refusal is told in the server's words, as text or as JSON", async () => {
  for (const [body, words] of [
    ["Too much at once.", "Too much at once."],
    ['{"ok":false,"message":"height must be at most 300"}', "height must be at most 300"],
    ['"The plan is gone."', "The plan is gone."],
    ["[1]", "[1]"],
  ]) {
    answering(new Response(body, { status: 400 }));
    await expect(request("/a")).rejects.toMatchObject({ message: words, status: 400 });
  }
});

test("a server that does not answer is told of, a question that was given up is not", async () => {
  answering(new TypeError("fetch failed"));
  await expect(request("/a")).rejects.toMatchObject({ message: NOT_ANSWERING, status: 503 });
  const stop = new AbortController();
  stop.abort();
  await expect(request("/a", { signal: stop.signal })).rejects.toThrow("aborted");
});

test("what has not changed is no refusal", async () => {
  answering(new Response(null, { status: 304 }));
  expect((await request("/a")).status).toBe(304);
});
