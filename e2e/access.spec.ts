import { STAGES } from "../app/stages";
import { expect, expectAccessible, test } from "./fixtures";
import { goWithin, SCREENS } from "./screens";

test("axe finds nothing serious on any screen, light or dark", async ({ page, server }) => {
  test.setTimeout(600_000);
  await page.goto(server.origin);
  await expect(page.locator("html")).toHaveAttribute("data-theme", "light");
  for (const [name, path] of SCREENS) {
    await goWithin(page, path);
    await expectAccessible(page, name);
    // The same page in other colours: only they can be wrong.
    await page.evaluate(() => (document.documentElement.dataset.theme = "dark"));
    await expectAccessible(page, `${name}, dark`, ["color-contrast"]);
    await page.evaluate(() => (document.documentElement.dataset.theme = "light"));
  }
  await page.emulateMedia({ colorScheme: "dark" });
  await page.reload();
  await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
});

test("the whole desk is worked from the keyboard", async ({ page, demo }) => {
  await page.goto(`${demo}/paths`);
  await expect(page.getByRole("link", { name: /^Paths/ })).toBeVisible();
  await page.locator("body").press("g");
  await page.keyboard.press("s");
  await expect(page).toHaveURL(/\/survey/);
  await page.keyboard.press("Control+k");
  await page.keyboard.type("Goat dairy");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Goat dairy" })).toBeVisible();
  await page.locator("body").press("g");
  await page.keyboard.press("p");
  await expect(page.getByRole("link", { name: /^Paths/ })).toHaveAttribute("aria-current", "page");
  await page.keyboard.press("j");
  await expect(page).toHaveURL(/sel=link/);
  const first = page.url();
  await page.keyboard.press("j");
  await expect(page).not.toHaveURL(first);
  await page.keyboard.press("k");
  await expect(page).toHaveURL(first);
  await page.keyboard.press("?");
  const keys = page.getByRole("dialog", { name: "Keys" });
  await expect(keys).toBeVisible();
  // Every stage has its key in the list.
  for (const { label } of STAGES) await expect(keys).toContainText(label);
  await page.keyboard.press("Escape");

  // The plan: Enter picks what stands under the cross, M measures.
  const plan = page.getByRole("application", { name: /^Plan/ });
  await expect(plan).toHaveAttribute("data-ready", "true");
  await plan.focus();
  await page.keyboard.press("m");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Choose the other end")).toBeVisible();
  for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowRight");
  await page.waitForTimeout(600);
  await page.keyboard.press("Enter");
  await expect(page.getByText(/km · .*° true/)).toBeVisible();
});
