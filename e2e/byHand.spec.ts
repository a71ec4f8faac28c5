import type { Page } from "@playwright/test";
import { discard, expect, test } from "./fixtures";
import type { RunningServer } from "./startServer";
import { emptyPlan } from "./emptyPlan";

async function counts(page: Page, server: RunningServer, name: string): Promise<void> {
  await page.goto(server.origin);
  await expect(page.getByRole("link", { name: new RegExp(name) })).toContainText("3 sites · 5 subscribers · 7 links");
}

/** What the chain takes: what is to be bought, the sun that its middle site needs, and an address for everything. */
async function kitOf(page: Page, keep: () => Promise<void>): Promise<void> {
  await page.getByRole("link", { name: /^Kit/ }).click();
  // Five customers' radios, and one in ten of them, one at least, to spare.
  const clients = page.getByRole("row", { name: /5C radio/ }).getByRole("cell");
  await expect(clients.nth(2)).toHaveText("5");
  await expect(clients.nth(3)).toHaveText("1");
  await page.getByRole("button", { name: "Sun and mains" }).click();
  await expect(page.locator("[data-solar]")).toContainText("Its panels and battery are not known yet");
  await page.getByRole("button", { name: "Addresses" }).click();
  const sheet = page.getByLabel("Sheet");
  for (let i = 1; i <= 3; i++) {
    await page.getByRole("button", { name: `Site ${i}`, exact: true }).click();
    await expect(sheet.getByLabel("Name", { exact: true })).toHaveValue(`Site ${i}`);
    await sheet.getByLabel("Network", { exact: true }).fill(`10.9.${i}.0/24`);
    await sheet.getByLabel("Gateway", { exact: true }).fill(`10.9.${i}.1`);
    await sheet.getByLabel("Gateway", { exact: true }).press("Tab");
    await keep();
    const row = page.getByRole("table", { name: "Networks of the sites" }).getByRole("row", { name: `Site ${i}` });
    await expect(row).toContainText(`10.9.${i}.0/24`);
    await expect(row).toContainText(`10.9.${i}.1`);
  }
  // Four ends of bridges, a sector and five customers.
  await page.getByRole("button", { name: "Give 10 radios the next free" }).click();
  await keep();
  await expect(page.getByRole("button", { name: "Nobody needs one" })).toBeVisible();
}

/** The chain's first bridge from the board to a phone at both ends, and back to the desk as proven. */
async function roofOf(page: Page): Promise<void> {
  await page.getByRole("link", { name: /^Install/ }).click();
  await page.getByRole("button", { name: "Propose 7 jobs" }).click();
  await expect(page.getByRole("button", { name: "Every link has its job" })).toBeVisible();
  const jobs = page.getByRole("region", { name: "No day yet" }).getByRole("listitem");
  await expect(jobs).toHaveCount(7);
  const [, planId] = /\/plans\/([^/]+)/.exec(page.url())!;
  const phone = await page.context().newPage();
  await phone.goto(`${new URL(page.url()).origin}/field/#/plan/${planId}`);
  await phone.getByLabel(/^Your name/).fill("Ana");
  const job = phone.getByRole("listitem").filter({ hasText: "Site 1 – Site 2" });
  await job.getByRole("button", { name: "Take along" }).click();
  for (const place of ["Site 1", "Site 2"]) {
    await phone.getByRole("link", { name: `I am at ${place}` }).click();
    await phone.getByRole("link", { name: "Read", exact: true }).click();
    const expected = /(−\d+\.\d)/.exec((await phone.getByText(/^Expect/).textContent())!)![1]!;
    await phone.getByLabel(/^(First chain|Level)/).fill(expected);
    await phone.getByRole("button", { name: "Keep this reading" }).click();
    await expect(phone.getByText("within the band")).toBeVisible();
    await phone.getByRole("button", { name: "Done at this end" }).click();
    await expect(phone.getByRole("button", { name: "Not done after all" })).toBeVisible();
    if (place === "Site 2") await expect(phone.getByText("✓ Proven")).toBeVisible();
    await phone.getByRole("link", { name: "All jobs" }).click();
  }
  await expect(phone.getByText("✓ All sent")).toBeVisible();
  await phone.close();
  await expect(jobs.filter({ hasText: "Site 1 – Site 2" })).toContainText("● done");
}

test("with the mouse: a chain of two bridges over a solar site, and a sector with five customers", async ({
  page,
  server,
}) => {
  await emptyPlan(page, server, "By mouse");
  const plan = page.getByRole("application", { name: /^Plan/ });
  const add = async (what: string) => {
    await page
      .getByTitle(/^Add a site, a customer/)
      .last()
      .click();
    await page.getByRole("menuitem", { name: what, exact: true }).click();
  };
  const click = async ([x, y]: readonly [number, number], button: "left" | "right" = "left") => {
    await plan.click({ position: { x, y }, button });
    // Two clicks in a row would be a double click, which zooms.
    await page.waitForTimeout(300);
  };
  const keep = async () => {
    await page.getByRole("button", { name: /^Keep Enter/ }).click();
    await expect(page.getByText("saved", { exact: true })).toBeVisible();
  };
  const sheet = page.getByLabel("Sheet");
  const SITES = [
    [180, 250],
    [330, 330],
    [480, 230],
  ] as const;
  for (const [i, [x, y]] of SITES.entries()) {
    await add("A site");
    await click([x, y]);
    await expect(sheet.getByLabel("Name", { exact: true })).toHaveValue(`Site ${i + 1}`);
    if (i === 1) await sheet.getByLabel("Power", { exact: true }).selectOption("solar");
    if (i === 0) await sheet.getByLabel("Internet feed", { exact: true }).selectOption("yes");
    await keep();
  }
  for (const [from, to] of [
    [0, 1],
    [1, 2],
  ] as [0 | 1, 1 | 2][]) {
    await add("A bridge");
    await click(SITES[from]);
    await expect(page.getByText(`From Site ${from + 1} to`)).toBeVisible();
    await click(SITES[to]);
    await expect(sheet.getByRole("heading", { name: `Site ${from + 1} – Site ${to + 1}` })).toBeVisible();
    await keep();
  }
  await add("A sector");
  await click(SITES[2]);
  await expect(sheet.getByText("serving nobody yet")).toBeVisible();
  await keep();
  for (let i = 0; i < 5; i++) {
    // Once by the menu of the point itself, which says the ground's height there.
    if (i === 0) {
      await click([440, 340], "right");
      await expect(page.getByText(/^Ground \d+\.\d m above the sea$/)).toBeVisible();
      await page.getByRole("menuitem", { name: /^Put a customer here/ }).click();
    } else {
      await add("A customer");
      await click([420 + 22 * i, 290 + 12 * i]);
    }
    await expect(sheet.getByLabel("Name", { exact: true })).toHaveValue(`Customer ${i + 1}`);
    // Dropping the pin shows at once who could serve it.
    await expect(page.getByRole("table", { name: new RegExp(`What Customer ${i + 1} sees`) })).toBeVisible();
    const option = sheet.getByLabel("Served from").locator("option", { hasText: "Site 3 sector 1" });
    await sheet.getByLabel("Served from").selectOption(await option.getAttribute("value"));
    await expect(sheet.getByRole("heading", { name: `Site 3 – Customer ${i + 1}` })).toBeVisible();
    await keep();
  }
  // A site is dragged elsewhere: a change in hand like any other, and discarded.
  await click(SITES[1]);
  const before = await sheet.getByLabel(/^Coordinates/).inputValue();
  const box = (await plan.boundingBox())!;
  await page.mouse.move(box.x + SITES[1][0], box.y + SITES[1][1]);
  await page.mouse.down();
  await page.mouse.move(box.x + SITES[1][0] + 30, box.y + SITES[1][1] + 20, { steps: 5 });
  await page.mouse.up();
  await expect(sheet.getByLabel(/^Coordinates/)).not.toHaveValue(before);
  await discard(page);
  await expect(sheet.getByLabel(/^Coordinates/)).toHaveValue(before);
  await kitOf(page, keep);
  await roofOf(page);
  await counts(page, server, "By mouse");
});

test("from the keyboard: the same chain, sector and customers", async ({ page, server }) => {
  await emptyPlan(page, server, "By keys");
  const sheet = page.getByLabel("Sheet");
  const add = async (word: string) => {
    await page.locator("body").press("n");
    await expect(page.getByRole("menu")).toBeVisible();
    const wanted = page.getByRole("menuitem", { name: `A ${word}` });
    for (let i = 0; i < 6; i++) {
      if (await wanted.evaluate((item) => item === document.activeElement)) break;
      await page.keyboard.press("ArrowDown");
      await page.waitForTimeout(100);
    }
    await expect(wanted).toBeFocused();
    await page.keyboard.press("Enter");
  };
  const keep = async () => {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press("Enter");
    await expect(page.getByText("saved", { exact: true })).toBeVisible();
  };
  /** Goes on with Tab until a control of that name has the focus. */
  const tabTo = async (name: RegExp) => {
    for (let i = 0; i < 120; i++) {
      const label = await page.evaluate(() => {
        const element = document.activeElement as HTMLInputElement | null;
        return element?.labels?.[0]?.textContent ?? element?.getAttribute("aria-label") ?? element?.textContent ?? "";
      });
      if (name.test(label)) return;
      await page.keyboard.press("Tab");
    }
    throw new Error(`no control ${String(name)} can be reached`);
  };
  for (const [i, place] of ["-2.96 11.01", "2°58'30\"S 11°01'30\"E", "-2.96, 11.04"].entries()) {
    await add("site");
    await expect(page.getByLabel(/type its coordinates/)).toBeFocused();
    await page.keyboard.type(i === 0 ? "nowhere" : place);
    await page.keyboard.press("Enter");
    if (i === 0) {
      await expect(page.getByText('"nowhere" is no latitude and longitude')).toBeVisible();
      await page.keyboard.press("Control+a");
      await page.keyboard.type(place);
      await page.keyboard.press("Enter");
    }
    await expect(sheet.getByLabel("Name", { exact: true })).toHaveValue(`Site ${i + 1}`);
    if (i === 1) {
      await tabTo(/^Power$/);
      await page.keyboard.type("solar");
      await expect(sheet.getByLabel("Power", { exact: true })).toHaveValue("solar");
    }
    await keep();
  }
  for (const [from, to] of [
    [1, 2],
    [2, 3],
  ] as const) {
    await add("bridge");
    await expect(page.getByLabel("From which site?")).toBeFocused();
    await page.keyboard.type(`Site ${from}`);
    await page.keyboard.press("Tab");
    await page.keyboard.press("Enter");
    await expect(page.getByLabel(`From Site ${from} to`)).toBeFocused();
    await page.keyboard.type(`Site ${to}`);
    await page.keyboard.press("Tab");
    await page.keyboard.press("Enter");
    await expect(sheet.getByRole("heading", { name: `Site ${from} – Site ${to}` })).toBeVisible();
    await keep();
  }
  await add("sector");
  await page.keyboard.type("Site 3");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Enter");
  await expect(sheet.getByText("serving nobody yet")).toBeVisible();
  await keep();
  for (let i = 0; i < 5; i++) {
    await add("customer");
    await page.keyboard.type(`${(-2.965 - i / 1000).toFixed(4)} ${(11.041 + i / 1000).toFixed(4)}`);
    await page.keyboard.press("Enter");
    await expect(sheet.getByLabel("Name", { exact: true })).toHaveValue(`Customer ${i + 1}`);
    await tabTo(/^Served from$/);
    await page.keyboard.press("ArrowDown");
    await expect(sheet.getByRole("heading", { name: `Site 3 – Customer ${i + 1}` })).toBeVisible();
    await keep();
  }
  await counts(page, server, "By keys");
});
