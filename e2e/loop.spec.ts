import { discard, expect, test } from "./fixtures";

test("a new user goes from two points on the map to a proven link", async ({ page, demo }) => {
  await page.goto(demo);
  await expect(page).toHaveURL(/\/paths$/);
  await page.getByRole("link", { name: /^Survey/ }).click();

  // Pick a customer that nobody serves yet, and see who reaches it.
  await page.getByLabel("Filter the list").fill("Finca");
  await page.locator("[data-list] button").first().click();
  const offers = page.getByRole("table").filter({ hasText: "Margin" });
  await expect(offers.getByRole("row").nth(1)).toContainText("dB");
  await expect(offers.getByRole("img", { name: "clear" }).first()).toBeVisible();
  await offers
    .getByRole("button", { name: /^Try a link/ })
    .first()
    .click();

  // The link is in hand: section, tape and bar answer at once.
  await expect(page.getByRole("group", { name: /^Section from/ })).toBeVisible();
  await expect(page.getByText("It works on paper")).toBeVisible();
  await expect(page.getByRole("row", { name: /Free space/ }).first()).toContainText("−");
  await page.getByRole("button", { name: "Free space" }).first().click();
  await expect(page.getByText("Source: ITU-R P.525-4 eq. 4")).toBeVisible();
  const served = page.locator('[data-in-hand="Served"]');
  await expect(served).toContainText("▲");
  await page.getByLabel("Reason").fill("first farm of the plain");
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  await expect(page.getByRole("status").filter({ hasText: "saved" })).toBeVisible();

  // A reload loses nothing.
  await page.reload();
  await page.getByRole("link", { name: "Crew sheet" }).click();
  await expect(page.getByRole("heading", { name: "Before anyone climbs" })).toBeVisible();
  const firstStep = page.getByRole("listitem").first().getByRole("checkbox");
  await expect(firstStep).toBeDisabled();
  for (const box of await page.getByRole("region", { name: "Before anyone climbs" }).getByRole("checkbox").all())
    await box.check();
  await expect(firstStep).toBeEnabled();
  await firstStep.check();
  await page.getByRole("link", { name: "Write down what was measured" }).click();

  // Measured as predicted: proven by both schools.
  await expect(page.getByText(/^Expected/).first()).toBeVisible();
  const expected = (
    await page
      .locator("fieldset")
      .filter({ hasText: "Received at" })
      .locator("p > .figures:first-of-type")
      .allTextContents()
  ).map((text) => Number(text.replace("−", "-").replace(" dBm", "")));
  const ends = page.getByRole("group", { name: /^Received at/ });
  for (const [i, level] of expected.entries()) {
    await ends.nth(i).getByLabel("First chain").fill(level.toFixed(1));
    await ends
      .nth(i)
      .getByLabel("Second chain")
      .fill((level - 0.2).toFixed(1).replace(".", ","));
  }
  await page.getByRole("button", { name: "Judge and keep" }).click();
  await expect(page.getByRole("region", { name: "Readings" }).getByText("Deviation from prediction:")).toBeVisible();
  await expect(page.getByText("proven").first()).toBeVisible();
  await page.getByRole("link", { name: "Back to the desk" }).click();
  await expect(page.locator("main").getByText("✓ proven").first()).toBeVisible();
});

test("a reading on a side lobe is called so, and bad input keeps what was typed", async ({ page, server }) => {
  await page.goto(`${server.origin}/plans/isla-orvena/links/link-medium/proof`);
  await expect(page.getByText("On a side lobe.").first()).toBeVisible();
  const ends = page.getByRole("group", { name: /^Received at/ });
  await ends.nth(0).getByLabel("First chain").fill("-47");
  await ends.nth(1).getByLabel("First chain").fill("-470");
  await page.getByRole("button", { name: "Judge and keep" }).click();
  await expect(page.getByText("First chain is under −120 dBm")).toBeVisible();
  await expect(ends.nth(0).getByLabel("First chain")).toHaveValue("-47");
});

test("dragging, arrow keys, keep, undo and redo", async ({ page, demo }) => {
  await page.goto(`${demo}/paths?sel=link:link-town`);
  const head = page.getByRole("slider", { name: "Height at School roof" });
  const height = async () => Number(await head.getAttribute("aria-valuenow"));
  const before = await height();
  const box = (await head.locator("circle").last().boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 30, { steps: 8 });
  await page.mouse.up();
  expect(await height()).toBeLessThan(before);
  const dragged = await height();
  await head.focus();
  await page.keyboard.press("ArrowUp");
  expect(await height()).toBe(dragged + 0.5);
  // Esc throws nothing away; what was discarded is one undo away.
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Discard", exact: true })).toBeEnabled();
  await page.goto(`${demo}/paths?sel=link:link-town`);
  await expect.poll(height).toBe(dragged + 0.5);
  await discard(page);
  await expect.poll(height).toBe(before);
  await page.keyboard.press("Control+z");
  await expect.poll(height).toBe(dragged + 0.5);
  await discard(page);
  await expect.poll(height).toBe(before);
  await head.focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect.poll(height).toBe(before);
  await page.keyboard.press("Control+Shift+z");
  await expect.poll(height).toBe(before - 0.5);
  await page.keyboard.press("Control+z");
  await expect.poll(height).toBe(before);
});

test("an end above its structure can be tried and is refused when kept, with nothing lost", async ({ page, demo }) => {
  await page.goto(`${demo}/paths?sel=link:link-long`);
  const field = page.getByRole("group", { name: /^Lighthouse/ }).getByLabel("Height above ground");
  await field.fill("25");
  await expect(page.getByText("cannot be kept")).toBeVisible();
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText("is above the 18 m that Lighthouse offers")).toBeVisible();
  await expect(field).toHaveValue("25");
  await field.fill("2500");
  await expect(page.getByText("2500 m is outside 0 to 48 m")).toBeVisible();
  await page.reload();
  await expect(page.getByRole("group", { name: /^Lighthouse/ }).getByLabel("Height above ground")).toHaveValue("25");
  await discard(page);
});
