import { expect, test } from "./fixtures";

test("a customer goes with its radio and link, a link with its reading, each named first and brought back by one undo", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/survey`);
  await page.getByLabel("Filter the list").fill("Casa Togalsa");
  const row = page.locator("[data-list] button").filter({ hasText: "Casa Togalsa" });
  await row.click();
  await page.getByRole("button", { name: "Remove" }).click();
  const asked = page.getByRole("alertdialog", { name: "Remove Casa Togalsa?" });
  await expect(asked).toContainText("With it go 1 radio and 1 link.");
  await page.keyboard.press("Escape");
  await expect(asked).toBeHidden();
  await expect(page.getByText(/^Nothing in hand/)).toBeVisible();

  await page.getByRole("button", { name: "Remove" }).click();
  await asked.getByRole("button", { name: "Remove" }).click();
  // In hand first: the bar says whom it costs.
  await expect(page.locator('[data-in-hand="Served"]')).toContainText("▼");
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  await expect(row).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(row).toHaveCount(1);

  await page.goto(`${demo}/acceptance?sel=link:link-medium`);
  await page.getByRole("button", { name: "Remove" }).click();
  const link = page.getByRole("alertdialog", { name: "Remove the link Harbour hut – Ridge hut?" });
  // Other tests on this server may have written readings too.
  await expect(link).toContainText(/With it go 2 radios, \d readings? and 1 job\./);
  await link.getByRole("button", { name: "Remove" }).click();
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  const listed = page.locator("[data-list] button").filter({ hasText: "Harbour hut – Ridge hut" });
  await page.getByLabel("Filter the list").fill("Harbour hut – Ridge");
  await expect(listed).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(listed).toHaveCount(1);
});
