import { expect, test } from "./fixtures";

/** What a person is never told: words of validators, databases, packages and stacks. */
const LEAKED = /Zod|SQL|postgres|PGlite|invalid byte|Unexpected token|at \S+\.m?js|Server Error|\[object/i;
const DEEP = "[".repeat(5000) + "]".repeat(5000);
const DEEP_GEOMETRY = `{"type":"FeatureCollection","features":[{"type":"Feature","properties":{},"geometry":${'{"type":"GeometryCollection","geometries":['.repeat(2000)}${"]}".repeat(2000)}}]}`;
const NUL = "a\0b";

const json = (body: unknown): RequestInit => ({
  method: "POST",
  headers: { "content-type": "application/json" },
  body: typeof body === "string" ? body : JSON.stringify(body),
});
const form = (fields: Record<string, string>): RequestInit => ({
  method: "POST",
  headers: { "content-type": "application/x-www-form-urlencoded" },
  body: new URLSearchParams(fields).toString(),
});
/** A change as a browser sends it, one that must not be kept. */
const kept = (patches: unknown, more: object = {}): RequestInit =>
  json({ intent: "keep", base: 1, op: "refusal", what: "x", reason: "", patches, ...more });
const setSite = (set: object) => kept([{ kind: "sites", id: "site-ridge", set }]);
const setRadio = (set: object) => kept([{ kind: "radios", id: "ap-ridge-e", set }]);
const overlay = (geojson: string) =>
  kept([{ kind: "overlays", id: "o", put: { id: "o", planId: "isla-orvena", name: "o", shown: true, geojson } }]);

/** Changes that must be refused by the name of what is wrong. */
const CHANGES: [what: string, sent: RequestInit, said: RegExp][] = [
  ["a NUL in a name", setSite({ name: NUL }), /set\.name/],
  [
    "half a character",
    json('{"intent":"keep","what":"x","patches":[{"kind":"sites","id":"s","set":{"name":"a\\ud800"}}]}'),
    /set\.name/,
  ],
  ["a NUL in what was done", kept([], { what: NUL }), /what/],
  ["a NUL in an id", kept([{ kind: "sites", id: NUL, remove: true }]), /id/],
  ["a NUL in undo", json({ intent: "undo", op: "\0" }), /op/],
  ["an unknown radio model", setRadio({ radioModelId: "nope" }), /nope/],
  ["an unknown site", setRadio({ siteId: "nope" }), /nope/],
  [
    "a number beyond numbers",
    json(
      '{"intent":"keep","what":"x","patches":[{"kind":"sites","id":"site-ridge","set":{"structureHeightM":1e400}}]}',
    ),
    /structureHeightM/,
  ],
  ["a field of the language", setSite({ constructor: 1 }), /there is no such field/],
  [
    "patches five thousand deep",
    json(`{"intent":"keep","what":"x","patches":${DEEP}}`),
    /over 100 lists or objects within one another/,
  ],
  ["GeoJSON five thousand deep", overlay(DEEP_GEOMETRY), /nests \d+ brackets, at most 32/],
  ["an overlay that is no GeoJSON", overlay("[1]"), /is no GeoJSON FeatureCollection/],
  ["a row of another plan", kept([{ kind: "sites", id: "n", put: { id: "n", planId: "other" } }]), /sites n/],
  [
    "an empty library sheet",
    kept([{ kind: "equipment", id: "z", put: { id: "z", planId: "isla-orvena", kind: "radio", body: {} } }]),
    /body/,
  ],
  ["nothing at all", json(""), /no change/],
];

/** Addresses that hold what no address has. */
const ADDRESSES = [
  ...[
    "/plans/%00/survey",
    "/plans/x%00y/survey",
    "/plans/isla-orvena/links/%00/sheet",
    "/plans/isla-orvena/photos/%00",
  ],
  ...["/plans/isla-orvena/jobs/%00", "/plans/isla-orvena/logbook?words=%00", "/plans/isla-orvena/searches/%00"],
  ...[
    "/plans/isla-orvena/relief/20/99999999999/1",
    "/plans/isla-orvena/profiles?pair=1e400,0,0,0",
    "/plans/%ff/survey",
  ],
  ...[
    "/plans/isla-orvena/since?revision=1e400",
    "/plans/isla-orvena/kit/constructor",
    "/plans/..%2f%09%2felsewhere.test",
  ],
];
const FORMS = [
  ...["/", "/backups", "/you", "/preferences", "/sign-in", "/account", "/people", "/invitations/x"],
  ...["noise", "versions", "links/link-sub-12/proof", "photos", "people", "export/file"].map(
    (page) => `/plans/isla-orvena/${page}`,
  ),
];
const ORDERS = ["terrain", "coverage", "cells-hear", "searches", "views", "stock", "staging", "removal"].map(
  (page) => `/plans/isla-orvena/${page}`,
);

test("what is wrong is refused by name, never with a failure of Tejado's own, and nothing of it is kept", async ({
  server,
}) => {
  const { origin } = server;
  const wrong: string[] = [];
  const ask = async (what: string, path: string, init: RequestInit = {}) => {
    const headers = { origin, ...(init.headers as Record<string, string> | undefined) };
    const response = await fetch(origin + path, { redirect: "manual", ...init, headers });
    // A page's nonce is drawn, and the names of its files are made from what they hold: either may spell a word by chance.
    const text = (await response.text())
      .replace(/<(script|style)[\s\S]*?<\/\1>/g, "")
      .replace(/ nonce="[^"]*"|\/assets\/[^"]*/g, "");
    if (response.status >= 500 || LEAKED.test(text)) wrong.push(`${what}: ${response.status} ${text.slice(0, 120)}`);
    const to = response.headers.get("location");
    if (to && new URL(to, origin).origin !== origin) wrong.push(`${what}: leads to ${to}`);
    return { status: response.status, text };
  };
  /** Entries of the logbook. */
  const entries = async () => (await ask("logbook", "/plans/isla-orvena/logbook")).text.split("<tr").length;
  const before = await entries();
  expect(before).toBeGreaterThan(1);
  for (const [what, sent, said] of CHANGES) {
    const { status, text } = await ask(what, "/plans/isla-orvena/changes", sent);
    const isRefused = status >= 400 && said.test(text);
    if (!isRefused) wrong.push(`${what}: ${status} ${text.slice(0, 160)}`);
  }
  // What a phone sends is looked at entry by entry; a bad one says why and holds up nothing.
  const entry = (more: object) => ({
    ...{ id: "entry-0001", visitId: "job-2", base: 1, what: "x", by: "" },
    patch: { kind: "sites", id: "site-ridge", set: { notes: "x" } },
    ...more,
  });
  const sent = await ask(
    "entries of a phone",
    "/plans/isla-orvena/field",
    json({
      ops: [
        entry({ id: "short" }),
        entry({ visitId: "job-none" }),
        entry({ patch: { kind: "sites", id: "site-ridge", set: { isFeed: true } } }),
        entry({ patch: { kind: "sites", id: "site-tower", set: { notes: "x" } } }),
        entry({ patch: { kind: "links", id: "link-medium", set: {} } }),
        { id: "entry-0002", note: { id: "entry-0003" } },
        null,
      ],
    }),
  );
  expect((JSON.parse(sent.text) as { answers: { message: string }[] }).answers.map(({ message }) => message)).toEqual([
    "id is no id of an entry",
    "This job is not in the plan any more; what was written is still on this phone.",
    expect.stringMatching(/^patch\.kind must be one of/),
    "visitId is missing",
    expect.any(String),
    "The feed is changed at the desk, not from a roof.",
    "This is not at either end of the job.",
  ]);
  for (const path of ADDRESSES) await ask(path, path, { headers: { accept: "text/html" } });
  for (const path of FORMS) {
    await ask(`JSON to ${path}`, path, json({ a: 1 }));
    await ask(`deep JSON to ${path}`, path, json(DEEP));
    await ask(
      `NUL to ${path}`,
      path,
      form({ name: NUL, intent: "name", login: NUL, to: NUL, notes: NUL, siteId: NUL }),
    );
    await ask(`half a form to ${path}`, path, {
      ...{ method: "POST", headers: { "content-type": "multipart/form-data; boundary=x" } },
      body: '--x\r\nContent-Disposition: form-data; name="file"; filename="a.jpg"\r\n\r\n\xff\xd8broken\r\n--x--',
    });
  }
  for (const path of ORDERS)
    for (const body of [{ a: 1 }, DEEP, { itemId: "\0", field: "ordered", count: 1 }])
      await ask(path, path, json(body));
  expect(wrong).toEqual([]);
  expect(await entries()).toBe(before);
});
