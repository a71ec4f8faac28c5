import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { fromColumns, type PlanWire } from "#wire";
import { invited, PASSWORD, postForm, signInAs, withOpenServer } from "./accounts";
import { addressOf, PATTERNS } from "./addresses";
import { expect, test } from "./fixtures";
import { goWithin, SCREENS } from "./screens";

const DEMO = "/plans/isla-orvena";

async function signIn(page: Page, base: string, to: string, login = "ana"): Promise<void> {
  await page.goto(`${base}/sign-in?${new URLSearchParams({ to })}`);
  await page.getByLabel("Login").fill(login);
  await page.getByLabel("Password").fill(PASSWORD);
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(page).toHaveURL(base + to);
}

test("what belongs to one plan is not to be had under another plan's address", async () => {
  await withOpenServer(async ({ base }) => {
    const keeper = await signInAs(base, "ana");
    const other = await invited(base, keeper, null, "bea");
    const made = await postForm(base, "/?index", { name: "Elsewhere" }, other);
    const otherPlan = /\/plans\/[\w-]+/.exec(made.headers.get("location") ?? "")![0];
    // What the demo holds: an archive with its job, a photograph, a link and a visit.
    const begun = await postForm(base, `${DEMO}/export.data`, {}, keeper);
    const [jobId = ""] = /[0-9a-f]{8}-[0-9a-f-]{27}/.exec(await begun.text()) ?? [];
    expect(jobId).not.toBe("");
    const photoId = randomUUID();
    const photo = new FormData();
    const about = { ownerKind: "site", ownerId: "site-ridge", name: "p.jpg", caption: "", takenAt: null };
    photo.set("id", photoId);
    photo.set("about", JSON.stringify({ ...about, latDeg: null, lonDeg: null, widthPx: 4, heightPx: 4 }));
    photo.set("file", new Blob([Uint8Array.of(0xff, 0xd8, 0xff, 0xd9)]), "p.jpg");
    const headers = { cookie: keeper, origin: base };
    await fetch(`${base}${DEMO}/photos`, { method: "POST", headers, body: photo });
    expect((await fetch(`${base}${DEMO}/photos/${photoId}`, { headers })).status).toBe(200);
    const archive = `archive/${jobId}`;
    await expect
      .poll(async () => (await fetch(`${base}${DEMO}/${archive}`, { headers: { cookie: keeper } })).status, {
        timeout: 60_000,
      })
      .toBe(200);
    const ids = {
      planId: otherPlan.split("/")[2]!,
      ...{ fileId: jobId, jobId, searchId: jobId, linkId: "link-medium", visitId: "job-2" },
      ...{ photoId, noteId: "note-1", radioId: "ap-ridge-e" },
    };
    const leaked: string[] = [];
    for (const pattern of PATTERNS) {
      if (!/^\/plans\/:planId\/.*:(fileId|jobId|searchId|linkId|visitId|photoId|noteId)/.test(pattern)) continue;
      const response = await fetch(base + addressOf(pattern, ids), { headers: { cookie: other, accept: "*/*" } });
      await response.body?.cancel();
      if (response.status !== 404) leaked.push(`${pattern}: ${response.status}`);
    }
    expect(leaked).toEqual([]);
    // An address has one spelling, and every check knows it.
    for (const spelled of [DEMO.toUpperCase(), DEMO.replace("/plans", "/PLANS")])
      expect((await fetch(`${base}${spelled}/survey`, { headers: { cookie: keeper } })).status).toBe(404);
    const foreign = { cookie: keeper, origin: "http://elsewhere.test", "sec-fetch-site": "cross-site" };
    expect((await fetch(`${base}/%70lans/isla-orvena/window`, { headers: foreign })).status).toBe(403);
  });
});

test("after signing out nothing of a plan comes back, and a stream ends with the right to read", async ({
  page,
  context,
}) => {
  await withOpenServer(async ({ base }) => {
    const keeper = await signInAs(base, "ana");
    const viewer = await invited(base, keeper, "viewer", "vera");
    const page1 = await fetch(`${base}${DEMO}/logbook`, { headers: { cookie: viewer } });
    expect(page1.headers.get("cache-control")).toBe("no-store");
    // A stream that is open when its reader is taken out.
    const events = await fetch(`${base}${DEMO}/events`, { headers: { cookie: viewer } });
    const reader = events.body!.getReader();
    await reader.read();
    const people = await (await fetch(`${base}${DEMO}/people`, { headers: { cookie: keeper } })).text();
    const id = /name="id" value="([0-9a-f-]{36})"/.exec(people)![1]!;
    expect((await postForm(base, `${DEMO}/people`, { intent: "take-out", id }, keeper)).status).toBe(200);
    const ended = (async () => {
      while (!(await reader.read()).done);
      return "ended";
    })();
    expect(await Promise.race([ended, new Promise((done) => setTimeout(done, 20_000, "still open"))])).toBe("ended");

    const left = await postForm(base, "/account", { intent: "sign-out" }, viewer);
    expect([left.status, left.headers.get("clear-site-data")]).toEqual([302, '"cache"']);

    await signIn(page, base, `${DEMO}/logbook`);
    await expect(page.getByRole("table").first()).toBeVisible();
    await page.evaluate(async () => {
      const kept = await caches.open("photographs");
      await kept.put("/plans/x/photos/y", new Response("a picture"));
    });
    await page.goto(`${base}/account`);
    const out = page.waitForResponse((response) => response.url().includes("/account") && response.status() < 400);
    await page.getByRole("button", { name: "Sign out", exact: true }).click();
    await out;
    await expect(page.getByRole("heading", { name: "Sign in" })).toBeVisible();
    await expect.poll(() => page.evaluate(() => caches.keys())).not.toContain("photographs");
    await page.goBack();
    await page.goBack();
    await expect(page.getByRole("heading", { name: "Sign in" })).toBeVisible();
    await expect(page.getByRole("table")).toHaveCount(0);
    expect(await context.cookies()).not.toContainEqual(expect.objectContaining({ name: "tejado-session" }));
  });
});

test("an invitation is listed until it is taken, and withdrawn with one click", async ({ page }) => {
  await withOpenServer(async ({ base }) => {
    await signIn(page, base, `${DEMO}/people`);
    await page.getByLabel("Invite as").selectOption("crew");
    await page.getByRole("button", { name: "Make a link" }).click();
    const link = (await page.locator("[data-invitation]").textContent())!.trim();
    expect((await fetch(link)).status).toBe(200);
    await page.getByRole("button", { name: "Withdraw the invitation by Ana Ruiz as crew" }).click();
    await expect(page.getByText("The invitation is withdrawn.")).toBeVisible();
    await expect(page.getByRole("table", { name: "Invitations" })).toHaveCount(0);
    expect((await fetch(link)).status).toBe(404);
  });
});

/** What is written into every text of a plan: each part would leave a trace, or lead away. */
const MARKUP = `<meta http-equiv=refresh content="0;url=/health"><img class=hostile src=x onerror="window.wasHit=1">`;

test("markup in every text of a plan stays text in every view", async ({ page, ownDemo }) => {
  test.setTimeout(600_000);
  const origin = new URL(ownDemo).origin;
  const { rows } = (await (await fetch(`${origin}${DEMO}/window`)).json()) as PlanWire;
  let written = 0;
  const keep = async (patches: object[]) => {
    const response = await fetch(`${origin}${DEMO}/changes`, {
      method: "POST",
      headers: { origin, "content-type": "application/json" },
      body: JSON.stringify({ intent: "keep", op: `op-${Math.random()}`, what: MARKUP, reason: MARKUP, patches }),
    });
    if (response.ok) written++;
    return response.ok;
  };
  for (const [kind, columns] of Object.entries(rows)) {
    const some = fromColumns<Record<string, unknown>>(columns).slice(0, 40);
    for (const [field, value] of Object.entries(some[0] ?? {})) {
      if (typeof value !== "string" || field === "id" || field === "planId") continue;
      const patchesOf = (text: string) => some.map(({ id }) => ({ kind, id, set: { [field]: text } }));
      // A field that takes fewer letters gets those; one that takes others only gets nothing.
      if (!(await keep(patchesOf(MARKUP)))) await keep(patchesOf(MARKUP.slice(0, 48)));
    }
  }
  expect(written).toBeGreaterThan(12);
  const hit: string[] = [];
  const look = async (name: string, path: string) => {
    const traces = await page.evaluate(() => ({
      at: location.pathname,
      images: document.querySelectorAll("img.hostile").length,
      leads: document.querySelectorAll("meta[http-equiv=refresh]").length,
      wasHit: "wasHit" in window,
    }));
    const isThere = path.split("?")[0] === traces.at;
    if (!isThere || traces.images > 0 || traces.leads > 0 || traces.wasHit)
      hit.push(`${name}: ${JSON.stringify(traces)}`);
  };
  console.log(`${written} kinds of texts were written`);
  await page.goto(ownDemo);
  const more = [
    ["timeline", `${DEMO}/monitoring?view=timeline&sel=link:link-long`],
    ["alarms", `${DEMO}/monitoring?view=alarms`],
    ["crews", `${DEMO}/install?view=crews`],
  ] as const;
  for (const [name, path] of [...SCREENS, ...more]) {
    await goWithin(page, path);
    await look(name, path);
  }
  expect(hit).toEqual([]);
});

/** Makes a crew of some logins and gives it the job on one link, as the keeper does at the desk. */
async function giveJob(base: string, keeper: string, logins: string[]): Promise<void> {
  const planId = "isla-orvena";
  const crew = { id: "crew-two", planId, name: "Two", people: "", radioChannel: "", phone: "", logins };
  const patches = [
    { kind: "crews", id: crew.id, put: crew },
    { kind: "visits", id: "job-2", set: { crewAId: crew.id } },
  ];
  const kept = await fetch(`${base}${DEMO}/changes`, {
    method: "POST",
    headers: { origin: base, cookie: keeper, "content-type": "application/json" },
    body: JSON.stringify({ intent: "keep", op: "give-two", what: "A job", patches }),
  });
  expect(await kept.text()).toContain('"ok":true');
}

test("what one person wrote on a phone waits for them, and goes as theirs; who was taken out reads why and hands it over", async ({
  browser,
}) => {
  await withOpenServer(async ({ base }) => {
    const keeper = await signInAs(base, "ana");
    for (const login of ["cru", "pia"]) await invited(base, keeper, "crew", login);
    await giveJob(base, keeper, ["cru", "pia"]);
    const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
    const phone = await context.newPage();
    await signIn(phone, base, "/account", "cru");
    // Nothing gets through but what is fetched: the phone knows all the same who writes.
    await context.route(`**${DEMO}/field`, (route) =>
      route.request().method() === "POST" ? route.abort() : route.continue(),
    );
    await phone.goto(`${base}/field/#/plan/isla-orvena`);
    await phone.getByRole("button", { name: "Take along" }).click();
    await expect(phone.getByText("Signed in as cru")).toBeVisible();
    await phone.getByRole("link", { name: "I am at Harbour hut" }).click();
    await phone.getByRole("link", { name: "Talk", exact: true }).click();
    await phone.getByLabel("Say").fill("The mast stands.");
    await phone.getByRole("button", { name: "Say", exact: true }).click();
    await expect(phone.getByRole("status")).toContainText("1 not sent yet");
    // Somebody else signs in on the same phone.
    await phone.goto("about:blank");
    await context.unroute(`**${DEMO}/field`);
    await context.clearCookies();
    await signIn(phone, base, "/account", "pia");
    await phone.goto(`${base}/field/`);
    const stuck = phone.getByRole("region", { name: "Not sent: Isla Orvena" });
    await expect(stuck).toContainText("cru wrote this. It is sent when cru signs in on this phone.");
    await expect(phone.getByText("Signed in as pia")).toBeVisible();
    const notes = async () => (await fetch(`${base}${DEMO}/field/notes`, { headers: { cookie: keeper } })).text();
    expect(await notes()).not.toContain("The mast stands.");
    // Cru is back, but was taken out of the plan meanwhile.
    const people = await (await fetch(`${base}${DEMO}/people`, { headers: { cookie: keeper } })).text();
    const id = /data-member="cru"[\s\S]*?name="id" value="([0-9a-f-]{36})"/.exec(people)![1]!;
    await postForm(base, `${DEMO}/people`, { intent: "take-out", id }, keeper);
    await context.clearCookies();
    await signIn(phone, base, "/account", "cru");
    await phone.goto(`${base}/field/`);
    await expect(stuck).toContainText("You are not in this plan any more, or it is gone. It stays on this phone.");
    await stuck.getByText("Read it (1)").click();
    await expect(stuck.getByRole("listitem")).toHaveText("message: The mast stands.");
    const download = phone.waitForEvent("download");
    await stuck.getByRole("button", { name: "Hand over as a file" }).click();
    expect(readFileSync(await (await download).path(), "utf8")).toContain("cru, job job-2: message: The mast stands.");
    // Put right by the owner, it goes by itself, as Cru's.
    const link = await postForm(base, `${DEMO}/people`, { intent: "invite", role: "crew" }, keeper);
    const [path] = /\/invitations\/[\w-]+/.exec(await link.text())!;
    await phone.goto(base + path);
    await phone.getByRole("button", { name: "Take it as cru" }).click();
    await phone.goto(`${base}/field/`);
    await expect(phone.getByRole("status").first()).toContainText("All sent");
    const sent = JSON.parse(await notes()) as
      { text: string; by: string }[] | { notes: { text: string; by: string }[] };
    const list = Array.isArray(sent) ? sent : sent.notes;
    expect(list.find(({ text }) => text === "The mast stands.")?.by).toBe("cru");
    await context.close();
  });
});
