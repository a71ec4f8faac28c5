import type { Page } from "@playwright/test";
import { expect, expectAccessible, test } from "./fixtures";

const SCREENS = [
  ["survey", "/plans/isla-orvena/survey?sel=subscriber:sub-42"],
  ["site", "/plans/isla-orvena/survey?sel=site:site-ridge"],
  ["paths", "/plans/isla-orvena/paths?sel=link:link-long"],
  ["bands", "/plans/isla-orvena/paths?sel=link:link-town&bench=bands"],
  ["ways out", "/plans/isla-orvena/paths?sel=link:link-sub-44&bench=ways"],
  ["sectors", "/plans/isla-orvena/sectors?sel=radio:ap-school"],
  ["coverage", "/plans/isla-orvena/sectors?view=coverage&sel=radio:ap-school"],
  ["ways to serve", "/plans/isla-orvena/sectors?view=schools&sel=site:site-silo"],
  ["mast", "/plans/isla-orvena/sectors?view=mast&sel=site:site-ridge"],
  ["build", "/plans/isla-orvena/sectors?view=build"],
  ["channels", "/plans/isla-orvena/channels?sel=radio:ap-ridge-e"],
  ["capacity", "/plans/isla-orvena/capacity?sel=radio:ap-tower-s"],
  ["backhaul", "/plans/isla-orvena/capacity?view=backhaul"],
  ["kit", "/plans/isla-orvena/kit?sel=radio:ap-school"],
  ["chains", "/plans/isla-orvena/kit?view=chains"],
  ["sun", "/plans/isla-orvena/kit?view=sun&sel=site:site-ridge"],
  ["addresses", "/plans/isla-orvena/kit?view=addresses"],
  ["bench", "/plans/isla-orvena/bench"],
  ["checklist", "/plans/isla-orvena/bench?view=checklist&sel=radio:cpe-sub-28"],
  ["configuration", "/plans/isla-orvena/bench?view=configuration&sel=radio:cpe-sub-28"],
  ["library", "/plans/isla-orvena/library"],
  ["antenna", "/plans/isla-orvena/library/antennas?id=brisote-arco-5-17-90&id=brisote-ronda-5-13"],
  ["radio", "/plans/isla-orvena/library/radios/brisote-tramo-5"],
  ["radio editor", "/plans/isla-orvena/library/radios/new"],
  ["rules", "/plans/isla-orvena/rules?set=en"],
  ["install", "/plans/isla-orvena/install"],
  ["proof stage", "/plans/isla-orvena/proof"],
  ["crew sheet", "/plans/isla-orvena/links/link-medium/sheet"],
  ["reading", "/plans/isla-orvena/links/link-medium/proof"],
  ["import", "/plans/isla-orvena/import"],
  ["settings", "/plans/isla-orvena/settings"],
  ["logbook", "/plans/isla-orvena/logbook"],
  ["terrain import", "/plans/isla-orvena/import?what=terrain"],
  ["outlines", "/plans/isla-orvena/import?what=shapes"],
  ["export", "/plans/isla-orvena/export"],
  ["register", "/plans/isla-orvena/register"],
  ["noise", "/plans/isla-orvena/noise"],
  ["versions", "/plans/isla-orvena/versions"],
  ["you", "/you"],
  ["home", "/"],
] as const;

/** Goes on to a page as a link does, without loading everything anew, until nothing on it has changed for a while. */
async function goWithin(page: Page, path: string): Promise<void> {
  await page.evaluate(async (to) => {
    const settled = new Promise<void>((resolve) => {
      let quiet = setTimeout(resolve, 1500);
      const watch = new MutationObserver(() => {
        clearTimeout(quiet);
        quiet = setTimeout(resolve, 400);
      });
      watch.observe(document.body, { childList: true, subtree: true, attributes: true });
      setTimeout(resolve, 15_000);
    });
    history.pushState({}, "", to);
    dispatchEvent(new PopStateEvent("popstate"));
    await settled;
  }, path);
  await expect(page.getByRole("heading", { name: /^(Not here|Something went wrong)$/ })).toHaveCount(0);
}

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
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
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
