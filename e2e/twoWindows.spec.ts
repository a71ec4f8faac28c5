import type { Browser, Page } from "@playwright/test";
import { expect, test } from "./fixtures";
import type { RunningServer } from "./startServer";

/** A window of somebody with a name, on a place of the demo. */
async function windowOf(browser: Browser, server: RunningServer, name: string, selection: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.addCookies([
    { name: "tejado", value: encodeURIComponent(JSON.stringify({ name })), url: server.origin },
  ]);
  const page = await context.newPage();
  await page.goto(`${server.landing}/survey?sel=${selection}`);
  return page;
}
const field = (page: Page, label: string) => page.getByLabel("Sheet").getByLabel(label, { exact: true });
async function keep(page: Page): Promise<void> {
  await page.getByRole("button", { name: /^Keep Enter/ }).click();
  await expect(page.getByText("Kept.", { exact: true }).last()).toBeVisible();
}

test("two people on one plan: different fields merge, the same field asks whose stands, undo is one's own", async ({
  browser,
  server,
}) => {
  const ana = await windowOf(browser, server, "Ana", "site:site-silo");
  const ben = await windowOf(browser, server, "Ben", "site:site-silo");
  await expect(field(ben, "Name")).toHaveValue("East silo");

  await field(ben, "Hazards").fill("dogs");
  await field(ana, "Structure").fill("steel silo");
  await keep(ana);
  // Ben's window follows by itself, and what he has in hand stays there.
  await expect(field(ben, "Structure")).toHaveValue("steel silo");
  await expect(field(ben, "Hazards")).toHaveValue("dogs");
  await keep(ben);
  await expect(field(ana, "Hazards")).toHaveValue("dogs");

  await field(ben, "Notes").fill("key at the bakery");
  await field(ben, "Access").fill("by the north track");
  await field(ana, "Notes").fill("key at the mill");
  await keep(ana);
  await ben.getByRole("button", { name: /^Keep Enter/ }).click();
  const asked = ben.getByRole("alert", { name: "Changed by others meanwhile" });
  await expect(asked).toContainText(
    /Ana set East silo, notes to key at the mill at \d\d:\d\d; here it is key at the bakery/,
  );
  // Beside the control too, and what was typed is still there.
  await expect(ben.getByLabel("Sheet")).toContainText("Ana set notes to key at the mill");
  await expect(field(ben, "Notes")).toHaveValue("key at the bakery");
  await asked.getByRole("button", { name: "Take theirs" }).click();
  await expect(asked).toBeHidden();
  await expect(field(ben, "Notes")).toHaveValue("key at the mill");
  await keep(ben);
  await expect(field(ben, "Access")).toHaveValue("by the north track");

  await field(ana, "Notes").fill("key lost");
  await field(ben, "Notes").fill("no key needed");
  await keep(ben);
  await ana.getByRole("button", { name: /^Keep Enter/ }).click();
  await ana
    .getByRole("alert", { name: "Changed by others meanwhile" })
    .getByRole("button", { name: "Keep mine" })
    .click();
  await keep(ana);

  // Ben's last change is Ben's to take back, and he is told that Ana has changed the same since.
  await ben.getByRole("button", { name: "Undo" }).click();
  await expect(ben.getByText(/Not taken back: Ana has changed the notes of East silo since/)).toBeVisible();
  await ana.getByRole("button", { name: "Undo" }).click();
  await expect(field(ana, "Notes")).toHaveValue("no key needed");
  await ben.getByRole("button", { name: "Undo" }).click();
  await expect(ben.getByText(/^Took back: East silo: notes/)).toBeVisible();
  await expect(field(ben, "Notes")).toHaveValue("key at the mill");
  for (const page of [ana, ben]) await page.context().close();
});

test("what is typed while a change is on its way stays in hand", async ({ browser, server }) => {
  const page = await windowOf(browser, server, "Carla", "subscriber:sub-42");
  let release = () => undefined as void;
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route("**/changes", async (route) => {
    await held;
    await route.continue();
  });
  await field(page, "Notes").fill("dish on the chimney");
  await page.getByRole("button", { name: /^Keep Enter/ }).click();
  await expect(page.getByText("saving…")).toBeVisible();
  await field(page, "Service tier").fill("gold");
  release();
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  await expect(page.getByText("in hand", { exact: true })).toBeVisible();
  await expect(field(page, "Service tier")).toHaveValue("gold");
  await page.unroute("**/changes");
  // The next change of the same window meets no conflict with its own.
  await field(page, "Notes").fill("dish on the gable");
  await page.getByRole("button", { name: /^Keep Enter/ }).click();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();
  await page.reload();
  await expect(field(page, "Service tier")).toHaveValue("gold");
  await expect(field(page, "Notes")).toHaveValue("dish on the gable");
  await page.context().close();
});

test("a setting that somebody changed meanwhile is asked about, and the rest is kept", async ({ browser, server }) => {
  const ana = await windowOf(browser, server, "Ana", "site:site-silo");
  const ben = await windowOf(browser, server, "Ben", "site:site-silo");
  for (const page of [ana, ben]) await page.goto(`${server.landing}/settings`);
  await ana.getByLabel("Proof: deviation allowed").fill("5");
  await ana.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(ana).toHaveURL(/\/paths/);
  await ben.getByLabel("Proof: deviation allowed").fill("6");
  await ben.getByLabel("Proof: absolute floor").fill("-66");
  await ben.getByRole("button", { name: "Keep", exact: true }).click();
  const asked = ben.getByRole("alertdialog", { name: "Somebody has changed this meanwhile" });
  await expect(asked).toContainText("acceptance deviation to 5");
  await asked.getByRole("radio", { name: "Keep mine" }).click();
  await asked.getByRole("button", { name: "Keep as chosen" }).click();
  await expect(ben).toHaveURL(/\/paths/);
  await ben.goto(`${server.landing}/settings`);
  await expect(ben.getByLabel("Proof: deviation allowed")).toHaveValue("6");
  await expect(ben.getByLabel("Proof: absolute floor")).toHaveValue("-66");
  await ben.getByRole("button", { name: "Undo" }).click();
  await expect(ben.getByText(/^Took back: Changed the plan/)).toBeVisible();
  await ana.getByRole("button", { name: "Undo" }).click();
  await expect(ana.getByText(/^Took back: Changed the plan/)).toBeVisible();
  for (const page of [ana, ben]) await page.context().close();
});
