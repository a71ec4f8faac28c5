import type { Page } from "@playwright/test";
import { expect, test } from "./fixtures";

const LINK = "/plans/isla-orvena/links/link-sub-12";

/** What the form says that each end should read on a chain, dBm. */
async function expectedLevels(page: Page): Promise<[aDbm: number, bDbm: number]> {
  const figures = page.getByRole("group", { name: /^Received at/ }).locator("p > .figures:first-of-type");
  await expect(figures.first()).toBeVisible();
  const texts = await figures.allTextContents();
  return texts.map((text) => Number(text.replace("−", "-").replace(" dBm", ""))) as [number, number];
}

async function fill(page: Page, end: number, label: string, value: number): Promise<void> {
  await page
    .getByRole("group", { name: /^Received at/ })
    .nth(end)
    .getByLabel(label)
    .fill(value.toFixed(1));
}

test("a reading is judged by all that was measured, corrected, and taken out, and the logbook knows each", async ({
  page,
  server,
}) => {
  await page.goto(`${server.origin}${LINK}/proof`);
  const [a, b] = await expectedLevels(page);
  const readings = page.getByRole("region", { name: "Readings" });

  // One direction as predicted and the other far down: no tree does that.
  await fill(page, 0, "First chain", a - 26);
  await fill(page, 1, "First chain", b);
  await page.getByRole("button", { name: "Judge and keep" }).click();
  await expect(readings.getByText(/✕ Both directions alike: .* 26\.0 dB apart/)).toBeVisible();
  await expect(readings.getByText("One direction only.")).toBeVisible();
  await expect(readings.getByText("Trees, or an edge in the way.")).toHaveCount(0);

  // The crew had read it wrong: corrected, it keeps its date and what it was held against.
  await readings.getByRole("link", { name: "Correct" }).click();
  await expect(page.getByText("It keeps its date and what it was held against.")).toBeVisible();
  const first = page
    .getByRole("group", { name: /^Received at/ })
    .nth(0)
    .getByLabel("First chain");
  await expect(first).toHaveValue((a - 26).toFixed(1).replace("-", "−"));
  await first.fill(a.toFixed(1));
  await page.getByRole("button", { name: "Judge again and keep" }).click();
  await expect(readings.getByText("proven")).toBeVisible();
  await expect(readings.getByRole("article")).toHaveCount(1);

  // Slow although the level is right.
  await fill(page, 0, "First chain", a);
  await fill(page, 1, "First chain", b);
  await page
    .getByLabel(/^Toward/)
    .first()
    .fill("1");
  await page.getByRole("button", { name: "Judge and keep" }).click();
  await expect(readings.getByText(/✕ Throughput: 1\.0 of \d+ Mbit\/s promised/)).toBeVisible();
  await expect(readings.getByText("Slow although the level is right.")).toBeVisible();

  // Taken out, the link stands by the reading before it.
  await readings
    .getByRole("article")
    .filter({ hasText: "Slow although" })
    .getByRole("button", { name: "Take out" })
    .click();
  await expect(readings.getByRole("article")).toHaveCount(1);
  await expect(readings.getByText("proven")).toBeVisible();

  await page.goto(`${server.origin}/plans/isla-orvena/logbook`);
  for (const what of [
    /Reading on .*: doubtful/,
    /Reading of .* corrected: proven/,
    /Reading of .* taken out; proven now/,
  ])
    await expect(page.getByRole("row").filter({ hasText: what }).first()).toBeVisible();
});

test("a crew's sheet says which level is meant, which way the meter goes, and both frequencies of an FDD pair", async ({
  page,
  server,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${server.origin}/plans/isla-orvena/links/link-short/sheet`);
  const end = page.getByRole("region", { name: "East silo" });
  await expect(end.getByText("Expect, each chain")).toBeVisible();
  await expect(end.getByText("All chains together", { exact: true })).toBeVisible();
  await expect(end.getByText(/^accept −\d+\.\d to −\d+\.\d dBm$/)).toBeVisible();
  await expect(end.getByText(/lower is stronger; expected 0\.\d\d V/)).toBeVisible();
  await expect(end.getByText(/^0\.\d\d to 0\.\d\d V$/)).toBeVisible();
  await page.goto(`${server.origin}/plans/isla-orvena/links/link-town/sheet`);
  const roof = page.getByRole("region", { name: "School roof" });
  const figureOf = (label: string) =>
    roof
      .locator("div")
      .filter({ hasText: new RegExp(`^${label}`) })
      .last();
  await expect(figureOf("Sends on")).toContainText("83500 MHz");
  await expect(figureOf("Listens on")).toContainText("73500 MHz");
  // The page is no wider than the phone's screen.
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test("in a plan of one's own the stand-in scanner answers only when it is asked for by name", async ({
  page,
  server,
}) => {
  await page.goto(server.origin);
  await page.getByLabel("Name").fill("Noise of our own");
  await page.getByRole("button", { name: "Begin" }).click();
  await page.getByRole("link", { name: "Import files" }).click();
  await page.getByLabel("Places file").setInputFiles({
    name: "mast.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("kind,name,lat,lon,height\nsite,Mast,-37.6,-30.2,20\n"),
  });
  await page.getByRole("button", { name: "Keep 1 place" }).click();
  await expect(page.getByText(/mast\.csv: 1 new/)).toBeVisible();
  await page.getByRole("link", { name: "under Noise" }).click();
  await page.getByRole("button", { name: "Scan", exact: true }).click();
  await expect(page.getByText("Give a scanner’s, or choose the simulation")).toBeVisible();
  await page.getByRole("checkbox", { name: "Simulate it instead" }).check();
  await page.getByRole("button", { name: "Scan", exact: true }).click();
  await expect(page.getByText(/Kept 8 scans/)).toBeVisible();
  await expect(page.getByText("simulated: own transmitters only").first()).toBeVisible();
});
