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
  test.setTimeout(180_000);
  await withOpenServer(async ({ base }) => {
    const keeper = await signInAs(base, "ana");
    const other = await invited(base, keeper, null, "bea");
    const made = await postForm(base, "/?index", { name: "Elsewhere" }, other);
    const otherPlan = /\/plans\/[\w-]+/.exec(made.headers.get("location") ?? "")![0];
    // Things of the demo: an archive that was written, its work, a link and a job.
    const begun = await postForm(base, `${DEMO}/export.data`, {}, keeper);
    const [jobId = ""] = /[0-9a-f]{8}-[0-9a-f-]{27}/.exec(await begun.text()) ?? [];
    expect(jobId).not.toBe("");
    const archive = `archive/${jobId}`;
    await expect
      .poll(async () => (await fetch(`${base}${DEMO}/${archive}`, { headers: { cookie: keeper } })).status, {
        timeout: 60_000,
      })
      .toBe(200);
    const ids = {
      planId: otherPlan.split("/")[2]!,
      ...{ fileId: jobId, jobId, searchId: jobId, linkId: "link-medium", visitId: "job-2" },
      ...{ photoId: "photo", noteId: "note-1", radioId: "ap-ridge-e" },
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
  test.setTimeout(180_000);
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
  test.setTimeout(120_000);
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
    ["timeline", `${DEMO}/watch?view=timeline&sel=link:link-long`],
    ["alarms", `${DEMO}/watch?view=alarms`],
    ["crews", `${DEMO}/install?view=crews`],
  ] as const;
  for (const [name, path] of [...SCREENS, ...more]) {
    await goWithin(page, path);
    await look(name, path);
  }
  expect(hit).toEqual([]);
});
