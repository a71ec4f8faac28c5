import { readFile } from "node:fs/promises";
import { discard, expect, test } from "./fixtures";

/** What is wrong with the demo's kit, each with the words of its first remedy. */
const PLANTED = [
  { kind: "wrongInjector", place: "School east", remedy: "Plan an 802.3at injector" },
  { kind: "longCable", place: "Tower south", remedy: "Lay fibre instead of copper" },
  { kind: "pole", place: "Tower south", remedy: "Hold it with Tornel Garra 40–120" },
  { kind: "solar", place: "Ridge hut", remedy: "Plan panels of 1100 W" },
  { kind: "firmware", place: "Casa", remedy: "Update it to 4.2.1 on the bench" },
  { kind: "address", place: "Casa", remedy: "Give it 10.44.0.2" },
  { kind: "gateway", place: "Quarry mast", remedy: "its gateway" },
];
const LIST = 'aside[aria-label^="Findings and"]';

test("every fault of the demo's kit is found and mended by its first remedy", async ({ page, ownDemo: demo }) => {
  await page.goto(`${demo}/kit`);
  for (const { kind, place, remedy } of PLANTED) {
    await page.getByRole("link", { name: kind === "firmware" ? /^Staging/ : /^Kit/ }).click();
    await expect(page.getByRole("status").filter({ hasText: "saved" })).toBeVisible();
    const cards = page.locator(`${LIST} [data-finding="${kind}"]`).filter({ hasText: place });
    await expect(cards.first(), `${kind} at ${place} is found`).toBeVisible();
    const before = await cards.count();
    await cards.first().getByRole("button").first().click();
    await expect(cards.first()).toContainText(remedy);
    await cards.first().getByRole("button", { name: "Take in hand" }).first().click();
    await page.getByRole("button", { name: /^Keep/ }).click();
    await expect(page.getByText(/^Nothing in hand/)).toBeVisible();
    await expect(cards).toHaveCount(before - 1);
  }
  // The pairs that came out of their boxes alike take addresses all at once, and nothing is left.
  await page.getByRole("button", { name: "Addresses" }).click();
  await page.getByRole("button", { name: /^Give 4 radios the next free/ }).click();
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByRole("button", { name: "Nobody needs one" })).toBeVisible();
  await expect(page.locator(`${LIST} [data-finding]`)).toHaveCount(0);
  await page.getByRole("link", { name: /^Staging/ }).click();
  const firmware = page.locator(`${LIST} [data-finding="firmware"]`);
  await firmware.getByRole("button").first().click();
  await firmware.getByRole("button", { name: "Take in hand" }).click();
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.locator(`${LIST} [data-finding]`)).toHaveCount(0);
});

test("the bill follows what is chosen and what is in hand, chains and masts tell their figures, and lists go out", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/kit`);
  const total = page.locator("[data-bill]");
  await expect(total).toContainText(/kg in the car, \d+ kg of it to go up/);
  const whole = Number(await total.getAttribute("data-bill"));
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Order list, CSV" }).click(),
  ]);
  const rows = (await readFile(await download.path(), "utf8")).trim().split(/\r?\n/);
  expect(rows[0]).toContain("item,kind,needed,spare,unit,packOf,packs,priceEur,weightKg");
  expect(Math.round(Number(rows.at(-1)!.split(",").at(-2)))).toBe(whole);

  await page.goto(`${demo}/kit?sel=site:site-ridge`);
  await page.getByLabel("Bill for").selectOption({ label: "Ridge hut" });
  await expect(page.locator('[data-item="halvorn-placa-200"]')).toContainText("4");
  expect(Number(await total.getAttribute("data-bill"))).toBeLessThan(whole);
  await page.getByLabel("Panels").fill("900");
  await page.getByLabel("Panels").press("Tab");
  await expect(page.locator('[data-item="halvorn-placa-200"]')).toContainText("5");
  await page.getByRole("button", { name: "Sun and mains", exact: true }).click();
  await expect(page.locator('[data-solar="site-ridge"]')).toContainText("900 W of panels");
  await discard(page);

  await page.getByRole("button", { name: "Cables and power" }).click();
  const chain = page.locator('[data-chain="ap-tower-s"]');
  await expect(chain).toContainText("114 m in all: 14 too many");
  await chain.getByRole("button").click();
  await page.getByLabel("Cable", { exact: true }).selectOption("fibre");
  // What is right again goes down among the others.
  await expect(page.getByText("too many")).toHaveCount(0);
  await discard(page);

  await page.getByRole("button", { name: "Wind and exposure" }).click();
  await expect(page.locator('[data-structure="site-lighthouse"]')).toContainText("what the owner allows is not known");
  await expect(page.getByText("These are figures, not a permission")).toBeVisible();
});

test("what is bought: one tick orders all, what cannot be is refused, the rest goes out as PDF, and a budget says what can wait", async ({
  page,
  ownDemo,
}) => {
  await page.goto(`${ownDemo}/kit?view=store`);
  const row = page.locator('[data-stock="halvorn-placa-200"]');
  const cell = (word: string) => row.getByRole("textbox", { name: `Halvorn Placa 200, ${word}` });
  await row.getByRole("checkbox", { name: "All of Halvorn Placa 200 ordered" }).click();
  await expect(cell("ordered")).toHaveValue("4");
  await expect(row.getByRole("cell").last()).toHaveText("–");
  // More cannot be packed than is there.
  await cell("packed").fill("2");
  await cell("packed").press("Enter");
  await expect(page.getByText("Not kept: 2 packed, but only 0 are there.")).toBeVisible();
  await expect(cell("packed")).toHaveValue("0");
  await cell("in store").fill("two");
  await cell("in store").press("Enter");
  await expect(page.getByText(/in store, must be a whole number from 0 to 999,999; "two" is none/)).toBeVisible();
  await row.getByRole("checkbox", { name: "All of Halvorn Placa 200 arrived" }).click();
  await row.getByRole("checkbox", { name: "All of Halvorn Placa 200 packed" }).click();
  await expect(cell("packed")).toHaveValue("4");
  await page.reload();
  await expect(cell("packed")).toHaveValue("4");
  await page.getByRole("checkbox", { name: "Only what is open" }).check();
  await expect(row).toHaveCount(0);
  for (const [link, view] of [
    ["Order, PDF", "store"],
    ["Labels of all, PDF", "bench"],
  ] as const) {
    if (view === "bench") await page.goto(`${ownDemo}/staging`);
    const [download] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("link", { name: link }).click(),
    ]);
    const bytes = await readFile(await download.path());
    expect(bytes.subarray(0, 5).toString()).toBe("%PDF-");
    expect(bytes.length).toBeGreaterThan(5000);
  }
  await page.goto(`${ownDemo}/settings`);
  await page.getByLabel("Budget for kit").fill("15000");
  await page.getByRole("button", { name: /^Keep/ }).click();
  await page.goto(`${ownDemo}/kit`);
  const waits = page.locator("[data-can-wait]");
  await waits.getByText(/^What can wait/).click();
  await expect(waits.getByRole("listitem").first()).toContainText("not served as planned");
});

test("an own procedure is copied, ordered, refused by its circle, followed by its kit, and goes out and in", async ({
  page,
  ownDemo: demo,
}) => {
  await page.goto(`${demo}/kit?view=procedures`);
  await page.getByRole("button", { name: "H. Sector antenna" }).click();
  await expect(page.locator('[data-step="ports"] figcaption')).toContainText("Socket to socket by number");
  await page.getByRole("button", { name: "Write a new one" }).click();
  await page.getByLabel("Name", { exact: true }).fill("Salt coast");
  await page.getByLabel("Step 1", { exact: true }).fill("Grease every bolt against salt.");
  const grease = page.locator('[data-edit-step="first"]');
  // A name of nothing stays in its box with its reason, and what was whole before is kept in hand.
  await page.getByLabel("Name", { exact: true }).fill("");
  await expect(page.getByRole("alert").filter({ hasText: "is missing" })).toBeVisible();
  await page.getByLabel("Name", { exact: true }).fill("Salt coast");
  await grease.getByLabel("Before: add a step").selectOption("bench");
  await grease.getByLabel("After: add a step").selectOption("leave");
  await expect(page.locator("[data-circle]")).toContainText("first waits for leave");
  await grease.getByRole("button", { name: "Take leave off" }).click();
  await expect(page.locator("[data-circle]")).toHaveCount(0);
  await page.getByRole("button", { name: "Add a step" }).click();
  await page.getByLabel("Step 2", { exact: true }).fill("Check the grease after a year.");
  // Dragging is by keys too.
  const handle = page.getByRole("button", { name: "Move step 2" });
  await handle.focus();
  await page.keyboard.press("Space");
  await expect(handle).toHaveAttribute("aria-pressed", "true");
  await expect(page.getByText("Step 2 would become step 2.")).toBeAttached();
  await page.keyboard.press("ArrowUp");
  await expect(page.getByText("Step 2 would become step 1.")).toBeAttached();
  await page.keyboard.press("Space");
  await expect(page.getByLabel("Step 1", { exact: true })).toHaveValue("Check the grease after a year.");
  await page.getByLabel("Followed by: add a radio, antenna or bracket").selectOption("brisote-vela-5c");
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save this one" }).click(),
  ]);
  const file = await readFile(await download.path());
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText(/^Nothing in hand/)).toBeVisible();
  await page.goto(`${demo}/links/link-sub-12/sheet`);
  await expect(page.getByText("Grease every bolt against salt.").first()).toBeVisible();

  await page.goto(`${demo}/kit?view=procedures`);
  await page
    .getByLabel("File of procedures")
    .setInputFiles({ name: "p.json", mimeType: "application/json", buffer: file });
  await expect(page.getByRole("button", { name: /^Salt coast/ })).toHaveCount(2);
  await discard(page);
  const broken = Buffer.from(file.toString().replace('"minutes": 5', '"minutes": 9000'));
  await page
    .getByLabel("File of procedures")
    .setInputFiles({ name: "p.json", mimeType: "application/json", buffer: broken });
  await expect(page.getByRole("alert")).toContainText("Procedure 1, steps.0.minutes (9000): must be at most 600");
});

test("a site moves to another network in the order in which nobody is lost, and keeps nothing wrong", async ({
  page,
  ownDemo: demo,
}) => {
  await page.goto(`${demo}/kit?view=addresses`);
  await page.getByRole("button", { name: "Renumber Quarry mast" }).click();
  await page.getByLabel("New network").fill("10.46.0.0");
  await expect(page.getByRole("alert")).toContainText("write it like");
  await page.getByLabel("New network").fill("10.46.0.0/24");
  await page
    .getByRole("region", { name: "Renumber Quarry mast" })
    .getByLabel(/^Customers’ own network/)
    .fill("10.47.0.0/24");
  const steps = page.locator("[data-renumber]");
  await expect(steps.first()).toContainText("a customer");
  await expect(steps.last()).toContainText("gateway of Quarry mast");
  await page.getByRole("button", { name: "Take it in hand" }).click();
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText(/^Nothing in hand/)).toBeVisible();
  await expect(page.locator('[data-network="site-quarry"]')).toContainText("customers 10.47.0.0/24");
  // What others have is given to nobody, and whoever has it is told whose it is.
  const reserved = page.getByLabel(/^Reserved, one a line/);
  await reserved.fill("router");
  await expect(page.getByRole("alert")).toContainText('Line 1, "router", begins with no address');
  await reserved.fill("10.44.0.20 - 10.44.0.29 the school's own");
  await expect(page.getByRole("alert")).toHaveCount(0);
  await expect(page.getByText("is reserved: the school's own").first()).toBeVisible();
  await page.getByRole("button", { name: /^Give \d+ radios the next free/ }).click();
  await expect(page.getByText("is reserved: the school's own")).toHaveCount(0);
  await expect(page.locator('[data-network="site-quarry"]')).toContainText("10.46.0.1");
});
