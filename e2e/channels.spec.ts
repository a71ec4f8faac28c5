import { expect, test } from "./fixtures";

test("the demo's facing sectors are parted by one nudge on the comb, or by one plan of all channels", async ({
  page,
  demo,
}) => {
  test.slow();
  await page.goto(`${demo}/channels`);
  const findings = page.getByRole("region", { name: "List of findings" });
  await expect(findings).toContainText("Ridge east at Ridge hut, on the same channel");
  const block = page.getByRole("slider", { name: "Channel of Quarry west" });
  await block.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press("Shift+ArrowRight");
  await expect(block).toHaveAttribute("aria-valuenow", "5240");
  await expect(page.getByRole("region", { name: "Gain rate" })).toContainText("Casa");
  await expect(page.getByText("Nothing found in what this stage checks")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(block).toHaveAttribute("aria-valuenow", "5180");
  // The same by mouse.
  const box = (await block.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(block).not.toHaveAttribute("aria-valuenow", "5180");
  await page.keyboard.press("Escape");

  await page.getByRole("button", { name: "Who hurts whom" }).click();
  const pairs = page.getByRole("region", { name: "Who hurts whom" });
  await expect(pairs.getByRole("row").nth(1)).toContainText("Ridge east");
  await expect(pairs.getByRole("row").nth(1)).toContainText("0 dB");

  await page.getByRole("button", { name: "Plan channels" }).click();
  await page.getByRole("button", { name: "Lay the channels" }).click();
  const plan = (school: string) => page.locator(`[data-channel-plan="${school}"]`);
  await expect(plan("backToBack")).toBeVisible({ timeout: 60_000 });
  await expect(plan("free")).toContainText("proven best");
  // Another school, another plan, with its price.
  await expect(plan("headings")).not.toHaveText(await plan("free").innerText());
  await plan("free")
    .getByRole("button", { name: /^Take in hand/ })
    .click();
  await page.getByRole("button", { name: "Comb" }).click();
  await expect(page.getByText("Nothing found in what this stage checks")).toBeVisible();
  await page.keyboard.press("Escape");
});
