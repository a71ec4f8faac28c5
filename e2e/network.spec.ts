import type { Page } from "@playwright/test";
import { discard, expect, test } from "./fixtures";

const openView = async (page: Page, demo: string, name: string) => {
  await page.goto(`${demo}/sectors`);
  await page.getByRole("button", { name, exact: true }).click();
};

test("sectors better themselves: a reload finds the search again, the trade is explained, a choice is taken in hand", async ({
  page,
  demo,
}) => {
  await openView(page, demo, "Improve");
  await page.getByLabel(/^Ridge hut/).check();
  await page.getByLabel("antennas").check();
  await page.getByRole("button", { name: "Improve them" }).click();
  await expect(page).toHaveURL(/search=/);
  await page.reload();
  // The search goes on meanwhile, on whatever cores it gets.
  await expect(page.locator("[data-trade]")).toBeVisible();
  await expect(page.locator("[data-trade]")).toContainText("As it stands");
  const best = page.locator("tr[data-people]").first();
  await best.getByText(/steps?$/).click();
  await expect(best.getByRole("listitem").first()).toContainText(/: |link /);
  await best.getByRole("button", { name: "Take in hand" }).click();
  await expect(page.locator("[data-in-hand=Served]")).toContainText("→");
  await discard(page);
});

test("where to build: few far-reaching sites stand beside many small ones, and a choice is put on the plan", async ({
  page,
  demo,
}) => {
  await openView(page, demo, "Build");
  await page.getByLabel("For customers").selectOption("everybody");
  await page.getByLabel("Look for better for").fill("1");
  await page.getByRole("button", { name: "Search where to build" }).click();
  await expect(page.locator("[data-built='2']")).toBeVisible();
  const found = page.getByRole("region", { name: "What was found" });
  await expect(found.getByRole("row", { name: /People served as built/ })).toContainText(/\d+ of 298/);
  await expect(found.getByRole("row", { name: /No choice costs less than/ })).toContainText("%");
  await page.reload();
  await expect(page.locator("[data-built='2']")).toBeVisible();
  await page.getByRole("button", { name: "Take in hand: Small sites" }).click();
  await expect(page.locator("[data-in-hand=Cost]")).toContainText("→");
  await discard(page);
});

test("a mast: antennas are respaced by key and all at once, a shield is put on, and what each does to the others is told", async ({
  page,
  demo,
}) => {
  await openView(page, demo, "Mast");
  // A second sector on the channel of the first one, close under it.
  await page.getByRole("button", { name: "Rose" }).click();
  await page.getByRole("button", { name: "Add one like it in the widest gap" }).click();
  await page.getByRole("button", { name: "Mast", exact: true }).click();
  const hung = page.locator("[data-on-mast]");
  await expect(hung).toHaveCount(3);
  const top = page.getByRole("slider", { name: "Height of School to harbour" });
  await top.focus();
  await page.keyboard.press("ArrowDown");
  await expect(top).toHaveAttribute("aria-valuenow", "23.5");
  await expect(page.getByRole("region", { name: "Pairs on the mast" })).toContainText("dBm");
  const spread = page.locator("[data-respacing]");
  await expect(spread).toContainText(/stands \d+ dB apart, now \d+ dB/);
  await spread.getByRole("button").click();
  await expect(spread).toBeHidden();
  await page.getByText(/^Put a shield on/).click();
  await page.getByLabel("More loss behind").fill("12");
  await page.getByRole("button", { name: "Put it on, in hand" }).click();
  await expect(page.getByText(/\+ shield is in hand/)).toBeVisible();
  await expect(page.getByRole("complementary", { name: "Sheet" }).getByLabel("Antenna")).toHaveText(/\+ shield/);
});

test("a sector's gain by range, its stages, and what each antenna at a customer hears", async ({ page, demo }) => {
  await openView(page, demo, "Ways to serve");
  const gains = page.getByRole("region", { name: "Gain by range" });
  await expect(gains.getByText("the least that serves as many")).toBeVisible();
  await expect(page.locator("[data-stages]")).toContainText("price the tiers");
  await page.goto(`${demo}/settings`);
  await page.getByLabel("A customer without a priced tier").fill("20");
  await page.getByLabel("Work to put up a sector").fill("300");
  await page.getByRole("button", { name: "Keep" }).click();
  await openView(page, demo, "Ways to serve");
  await expect(page.locator("[data-stages]")).toContainText(/Now: School east, paid for within 24 months/);
  await page.goto(`${demo}/paths`);
  await page.getByText("Casa Samira").first().click();
  await page.getByRole("tab", { name: "Antennas" }).click();
  await expect(page.locator("[data-least]")).toContainText("is the least that does the job");
  await page
    .getByRole("button", { name: /^Take .* in hand$/ })
    .first()
    .click();
  await expect(page.locator("[data-in-hand=Cost]")).toContainText("→");
});

test("a list of customers is linked at once, and who cannot be is told why", async ({ page, demo }) => {
  await page.goto(`${demo}/register?kind=subscribers`);
  await page.getByRole("checkbox", { name: "Choose all shown rows" }).check();
  await page.getByRole("button", { name: "Link", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.locator("[data-taken]")).toContainText(/\d+ of \d+ are taken/);
  await expect(dialog).toContainText("is served already");
  await dialog.getByRole("button", { name: /^Link \d+ customers?$/ }).click();
  await expect(page.getByText(/Linked \d+ customers?\. Undo takes the links away/)).toBeVisible();
});

test("the coverage of all sites is one, by direction too", async ({ page, demo }) => {
  await openView(page, demo, "Coverage");
  await page.getByLabel("Of", { exact: true }).selectOption("plan");
  await expect(page.locator("[data-coverage-state=whole]")).toBeAttached();
  const legend = page.getByRole("list", { name: "Legend" });
  await page.getByLabel("Shown").selectOption("server");
  await expect(legend).toContainText("Lighthouse east");
  await page.getByLabel("Shown").selectOption("up");
  await expect(legend).toContainText("Mbit/s, at least");
  await expect(page.getByText("uplinks count thermal noise alone")).toBeHidden();
});
