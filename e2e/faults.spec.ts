import { expect, test } from "./fixtures";

/** The demo's planted faults of this slice, by kind and place. */
const PLANTED = [
  { kind: "ownNoise", place: "Quarry west" },
  { kind: "airtime", place: "Tower south" },
  { kind: "airtime", place: "School east" },
  { kind: "fullHop", place: "Harbour hut – Ridge hut" },
  { kind: "tight", place: "Quarry mast – Lighthouse" },
  { kind: "blocked", place: "Casa" },
  { kind: "polarization", place: "Casa" },
  { kind: "overEirp", place: "Harbour to silo" },
];

/** The left column; the sheet shows the findings of the selected link once more. */
const LIST = 'aside[aria-label^="Findings and"]';
/** Where the list with findings of a kind stands. */
const stageOf = (kind: string) =>
  kind === "airtime" || kind === "fullHop" ? "Capacity" : kind === "ownNoise" ? "Channels" : "Paths";

test("every planted fault is found and resolved by its first remedy", async ({ page, ownDemo: demo }) => {
  await page.goto(`${demo}/paths`);
  const go = (kind: string) => page.getByRole("link", { name: new RegExp(`^${stageOf(kind)}`) }).click();
  for (const { kind, place } of PLANTED) {
    await go(kind);
    // What the last change did is worked out before the next is looked for.
    await expect(page.getByRole("status").filter({ hasText: "saved" })).toBeVisible();
    const cards = page.locator(`${LIST} [data-finding="${kind}"]`).filter({ hasText: place });
    await expect(cards.first(), `${kind} at ${place} is found`).toBeVisible();
    const before = await cards.count();
    await cards.first().getByRole("button").first().click();
    const sheet = page.getByRole("region", { name: "Findings of this link" }).locator(`[data-finding="${kind}"]`);
    await sheet.getByRole("button", { name: "Take in hand" }).first().click();
    await page.getByRole("button", { name: /^Keep/ }).click();
    await expect(page.getByText(/^Nothing in hand/)).toBeVisible();
    await expect(cards).toHaveCount(before - 1);
  }
  // Turning the short bridge down mends both of its ends.
  await go("overEirp");
  await expect(page.locator(`${LIST} [data-finding="overEirp"]`)).toHaveCount(0);
  for (const { kind, place } of PLANTED) {
    await go(kind);
    await expect(page.locator(`${LIST} [data-finding="${kind}"]`).filter({ hasText: place })).toHaveCount(0);
  }

  await page.getByRole("link", { name: /^Install/ }).click();
  const bracket = page.locator(`${LIST} [data-finding="bracket"]`).first();
  await bracket.getByRole("button").first().click();
  await bracket.getByRole("button", { name: "Take in hand" }).first().click();
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText(/^Nothing in hand/)).toBeVisible();
  await expect(page.locator(`${LIST} [data-finding="bracket"]`)).toHaveCount(0);

  // The side lobe is resolved on the roof: by a new reading within the band.
  await page.getByRole("link", { name: /^Acceptance/ }).click();
  const doubtful = page.locator(`${LIST} [data-finding="doubtful"]`).first();
  await doubtful.getByRole("button").first().click();
  await doubtful.getByRole("link", { name: "Write down a new reading" }).click();
  const ends = page.getByRole("group", { name: /^Received at/ });
  for (const i of [0, 1]) {
    const text = await ends.nth(i).locator("p .figures").first().textContent();
    await ends
      .nth(i)
      .getByLabel("First chain")
      .fill(String(Number(text!.replace("−", "-").replace(" dBm", "")) + 0.5));
  }
  await page.getByRole("button", { name: "Judge and keep" }).click();
  await expect(page.getByText("proven").first()).toBeVisible();
  await page.getByRole("link", { name: "Back to the desk" }).click();
  await expect(page.locator(`${LIST} [data-finding]`)).toHaveCount(0);
});
