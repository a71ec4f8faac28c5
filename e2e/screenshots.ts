import { join, dirname } from "node:path";
import { fileURLToPath } from "node:url";
import type { Page } from "@playwright/test";
import { test } from "./fixtures";

const FOLDER = join(dirname(dirname(fileURLToPath(import.meta.url))), "docs", "screenshots");

interface Shot {
  name: string;
  path: string;
  field?: boolean;
  dark?: boolean;
  /** What is done before the picture. */
  before?: (page: Page) => Promise<void>;
}

const takeFirstRemedy = (page: Page) =>
  page.locator('[data-finding="tight"]').getByRole("button", { name: "Take in hand" }).first().click();

async function meetConflict(page: Page): Promise<void> {
  const height = (window: Page) => window.getByLabel("Height above ground").first();
  const keep = (window: Page) => window.getByRole("button", { name: /^Keep Enter/ }).click();
  const context = await page.context().browser()!.newContext();
  const { origin } = new URL(page.url());
  await context.addCookies([
    { name: "tejado", value: encodeURIComponent(JSON.stringify({ name: "Ana" })), url: origin },
  ]);
  const other = await context.newPage();
  await other.goto(page.url());
  // Typed before the other's change is kept: this window follows it within a second.
  await height(page).fill("15");
  await height(other).fill("12");
  await keep(other);
  await other.getByText("Kept.", { exact: true }).waitFor();
  await keep(page);
  await page.getByRole("alert", { name: "Changed by others meanwhile" }).waitFor();
  await height(page).scrollIntoViewIfNeeded();
  await other.getByRole("button", { name: "Undo" }).click();
  await other.getByText(/^Took back/).waitFor();
  await context.close();
}

async function searchWays(page: Page): Promise<void> {
  await page.getByLabel("Move Lighthouse within").fill("600");
  await page.getByRole("button", { name: "Search ways out" }).click();
  await page.getByRole("button", { name: "Look closer" }).click();
}

async function seeRose(page: Page): Promise<void> {
  await page
    .getByText(/serves/)
    .first()
    .waitFor();
}

async function askCell(page: Page): Promise<void> {
  await page.locator("[data-coverage-state=whole]").waitFor({ state: "attached" });
  await page.getByRole("application", { name: /^Plan/ }).click({ position: { x: 230, y: 210 } });
  await page.getByRole("region", { name: "The cell" }).waitFor();
}

async function seeSchools(page: Page): Promise<void> {
  await page.locator("[data-recommended]").waitFor();
}

async function parted(page: Page): Promise<void> {
  const block = page.getByRole("slider", { name: "Channel of Quarry west" });
  await block.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press("Shift+ArrowRight");
  await page.getByRole("region", { name: "Gain rate" }).waitFor();
}

async function seeMends(page: Page): Promise<void> {
  await page.getByRole("list", { name: "Mends" }).getByRole("listitem").first().waitFor({ timeout: 60_000 });
  await page.getByRole("list", { name: "Ways to split" }).getByRole("listitem").first().waitFor({ timeout: 60_000 });
}

async function seeHopWays(page: Page): Promise<void> {
  await page.getByRole("list", { name: "Ways to widen it" }).getByRole("listitem").first().waitFor({ timeout: 60_000 });
}

async function seeKit(page: Page): Promise<void> {
  await page.locator('[data-finding="wrongInjector"]').getByRole("button", { name: "Take in hand" }).waitFor();
}

async function practise(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Devices" }).click();
  await page.getByRole("button", { name: "Practise with Casa Dator radio" }).click();
  await page.getByText(/devices practised/).waitFor();
  await page.getByRole("button", { name: "Checklist" }).click();
}

const seeJob = (page: Page) => page.locator('[data-visit="job-2"]').scrollIntoViewIfNeeded();

/** A sweep in azimuth, as it stands on the phone after the peak. */
async function sweepOnRoof(page: Page): Promise<void> {
  await page.getByLabel(/^Your name/).fill("Ilda Rocha");
  await page.getByRole("button", { name: "Take along" }).nth(1).click();
  await page.getByRole("link", { name: "I am at Ridge hut" }).click();
  await page.getByRole("link", { name: "Aim", exact: true }).click();
  await page.getByRole("button", { name: "in dBm" }).click();
  for (let angle = -6; angle <= 5; angle++) {
    await page.getByLabel(/^On the scale/).fill(String(angle));
    const level = -47.6 - 3 * ((angle - 1) / 2.6) ** 2 + (angle % 2 ? 0.4 : -0.4);
    await page.getByLabel(/^Reads/).fill(Math.max(-66, level).toFixed(1));
    await page.getByRole("button", { name: "Log it" }).click();
    await page.waitForTimeout(60);
  }
  await page.getByText(/^The peak is passed/).scrollIntoViewIfNeeded();
  await page.getByRole("button", { name: "Lock azimuth" }).scrollIntoViewIfNeeded();
}

/** The island's year is played at the first look. */
async function seeWatch(page: Page): Promise<void> {
  const table = page.getByRole("table", { name: "Links by what they deliver" });
  const look = page.getByRole("button", { name: "Look now" });
  if (await look.isVisible()) await look.click();
  await table.waitFor({ timeout: 120_000 });
}

async function seeTimeline(page: Page): Promise<void> {
  await page.getByText(/^Bad hours/).waitFor({ timeout: 120_000 });
}

const SHOTS: Shot[] = [
  { name: "survey", path: "/plans/isla-orvena/survey?sel=subscriber:sub-58" },
  { name: "change-in-hand", path: "/plans/isla-orvena/paths?sel=link:link-long", before: takeFirstRemedy },
  { name: "paths-dark", path: "/plans/isla-orvena/paths?sel=link:link-sub-44", dark: true },
  { name: "ways-out", path: "/plans/isla-orvena/paths?sel=link:link-long&panel=ways", before: searchWays },
  { name: "sectors", path: "/plans/isla-orvena/sectors?sel=radio:ap-school", before: seeRose },
  { name: "coverage", path: "/plans/isla-orvena/sectors?view=coverage&sel=radio:ap-quarry-w", before: askCell },
  { name: "ways-to-serve", path: "/plans/isla-orvena/sectors?view=schools&sel=site:site-silo", before: seeSchools },
  { name: "mast", path: "/plans/isla-orvena/sectors?view=mast&sel=radio:ap-ridge-w" },
  { name: "channels", path: "/plans/isla-orvena/channels?sel=radio:ap-quarry-w", before: parted },
  { name: "capacity", path: "/plans/isla-orvena/capacity?sel=radio:ap-tower-s", before: seeMends },
  { name: "backhaul", path: "/plans/isla-orvena/capacity?view=backhaul&sel=link:link-medium", before: seeHopWays },
  { name: "kit", path: "/plans/isla-orvena/kit?view=chains&sel=radio:ap-school", before: seeKit },
  { name: "staging", path: "/plans/isla-orvena/staging?view=checklist&sel=radio:cpe-sub-28", before: practise },
  { name: "install", path: "/plans/isla-orvena/install?sel=link:link-medium", before: seeJob },
  { name: "acceptance", path: "/plans/isla-orvena/acceptance?sel=link:link-medium" },
  { name: "monitoring", path: "/plans/isla-orvena/monitoring?sel=link:link-long", before: seeWatch },
  {
    name: "monitoring-timeline",
    path: "/plans/isla-orvena/monitoring?view=timeline&sel=link:link-long",
    before: seeTimeline,
  },
  { name: "roof", path: "/field/#/plan/isla-orvena", field: true, before: sweepOnRoof },
  { name: "two-people", path: "/plans/isla-orvena/paths?sel=link:link-long", before: meetConflict },
];

for (const shot of SHOTS) {
  test(`picture of ${shot.name}`, async ({ page, server }) => {
    if (shot.field) await page.setViewportSize({ width: 390, height: 844 });
    await page.emulateMedia({ colorScheme: shot.dark ? "dark" : "light" });
    await page.goto(`${server.origin}${shot.path}`, { waitUntil: "networkidle" });
    await shot.before?.(page);
    await page.waitForTimeout(1200);
    await page.screenshot({ path: join(FOLDER, `${shot.name}.png`) });
  });
}
