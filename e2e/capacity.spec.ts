import { discard, expect, test } from "./fixtures";

test("the demo's full sectors, its slow customer and its narrow bridge each have a way out that shows what it is worth", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/capacity`);
  const loadOf = (id: string) => page.locator(`[data-load="${id}"]`);
  await expect(loadOf("ap-school")).toContainText("335 %");
  const split = page.getByRole("list", { name: "Ways to split" }).getByRole("listitem").first();
  await expect(split).toContainText("10 of 10 customers served");
  await split.getByRole("button", { name: /^Take in hand/ }).click();
  await expect(loadOf("ap-school")).toContainText("90 %,");
  await expect(loadOf("ap-school")).not.toContainText("335 %");
  await discard(page);
  await expect(loadOf("ap-school")).toContainText("335 %");

  // Less to wait for by another share of the frame alone.
  await page.getByRole("button", { name: /^Share the frame 85 %/ }).click();
  await expect(loadOf("ap-school")).toContainText("264 %, 20");
  await discard(page);

  await loadOf("ap-tower-s").getByRole("button", { name: "Tower south" }).click();
  await expect(page.getByRole("heading", { name: /takes 2\d % of all time/ })).toBeVisible();
  const mend = page.getByRole("list", { name: "Mends" }).getByRole("listitem").first();
  await expect(mend).toContainText("this sector 317 %");
  await mend.getByRole("button").click();
  await expect(loadOf("ap-tower-s")).not.toContainText("317 %");
  await discard(page);

  await page.getByRole("button", { name: "Backhaul" }).click();
  const hop = page.locator('[data-hop="link-medium"]');
  await expect(hop).toContainText("109 %");
  const way = page.getByRole("list", { name: "Ways to widen it" }).getByRole("listitem").first();
  await expect(way).toContainText("Widen the channel from 10 to 20 MHz");
  await way.getByRole("button").click();
  await expect(hop).toContainText("55 %");
  await expect(page.locator('[data-finding="fullHop"]')).toHaveCount(0);
  await discard(page);
  await expect(hop).toContainText("109 %");
});
