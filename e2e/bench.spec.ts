import { readFileSync } from "node:fs";
import { discard, expect, test } from "./fixtures";

test("ways out of a blocked link are searched with progress, marked on the plan, and taken in hand", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/paths?sel=link:link-sub-44&panel=ways`);
  await page.getByLabel("Move Casa Galbra within").fill("400");
  await page.getByRole("button", { name: "Search ways out" }).click();
  await expect(page.getByText(/changes tried; \d+ ways out/)).toBeVisible();
  await expect(page.getByRole("list", { name: "Marks on the plan" })).toBeVisible();
  await page.getByRole("button", { name: "Look closer" }).click();
  const first = page.getByRole("button", { name: /^Take in hand: Serve from Ridge hut/ }).first();
  await expect(first).toBeVisible();
  // A relay on high ground is among them; taken, it brings a site, and discarding takes it away again.
  await page
    .getByRole("button", { name: /^Take in hand: Put a relay on the high ground/ })
    .first()
    .click();
  await expect(
    page.getByText(/^It (works on paper|holds, but its signal is under the acceptance floor)/),
  ).toBeVisible();
  await expect(page.locator('[data-in-hand="Served"]')).toContainText("▲");
  await discard(page);
  await page.goto(`${demo}/paths?sel=link:link-sub-44&panel=ways`);
  await page.getByRole("button", { name: "Search ways out" }).click();
  await first.click();
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  await expect(page.locator('[data-finding="blocked"]')).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(page.locator('[data-finding="blocked"]').first()).toBeVisible();
});

test("a search is stopped and leaves nothing", async ({ page, demo }) => {
  await page.goto(`${demo}/paths?sel=link:link-sub-44&panel=ways`);
  await page.getByLabel("Move Quarry mast within").fill("5000");
  await page.getByLabel("Move Casa Galbra within").fill("5000");
  await page.getByRole("button", { name: "Search ways out" }).click();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText("Stopped; nothing was kept.")).toBeVisible();
});

test("bands stand side by side and the best one is taken in hand", async ({ page, demo }) => {
  await page.goto(`${demo}/paths?sel=link:link-town&panel=bands`);
  const table = page.getByRole("table", { name: /Bands compared/ });
  await expect(table.getByRole("rowheader")).toHaveCount(9);
  const must = await page.getByLabel("Should carry").inputValue();
  await page.getByLabel("Should carry").fill("2000");
  await expect(table.getByRole("rowheader").first()).toHaveText("80 GHz");
  await page.getByLabel("Should carry").fill("100");
  await expect(table.getByRole("rowheader").first()).not.toHaveText("80 GHz");
  // A band whose rules cap nothing of what it sends has a tape like any other.
  await page.getByRole("button", { name: "Take 11 GHz in hand" }).click();
  await page.getByRole("tab", { name: "Section" }).click();
  await expect(page.getByRole("table", { name: "Link budget toward School roof" })).toBeVisible();
  await discard(page);
  await page.getByRole("tab", { name: "Bands" }).click();
  await page.getByLabel("Should carry").fill(must);
  const band = await table.getByRole("rowheader").first().textContent();
  await page.getByRole("button", { name: `Take ${band} in hand` }).click();
  await page.getByRole("tab", { name: "Section" }).click();
  await expect(page.getByText("It works on paper")).toBeVisible();
  await discard(page);
});

test("a site sees everybody, near misses say what they lack, and a try follows the change in hand", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/paths?sel=site:site-tower`);
  await expect(page.getByText(/63 paths in \d+ ms/)).toBeVisible();
  await page.getByRole("button", { name: /^near misses/ }).click();
  const rows = page.getByRole("table", { name: /sees, best first/ }).getByRole("row");
  await expect(rows.nth(1)).toContainText(/more/);
  await page.getByRole("button", { name: /^served/ }).click();
  // Whom it serves is linked already, and says so; the others can be tried.
  await expect(page.getByRole("button", { name: "Linked already" }).first()).toBeVisible();
  await page.getByRole("button", { name: /^all/ }).click();
  await page
    .getByRole("button", { name: /^Try a link with/ })
    .first()
    .click();
  await expect(page.getByRole("region", { name: "Tape" })).toBeVisible();
  await discard(page);
});

test("an antenna goes out as a table and comes back; a broken one names its row; four stand beside each other", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/library/antennas?id=brisote-arco-5-17-90`);
  const saved = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as CSV" }).click();
  const csv = readFileSync(await (await saved).path(), "utf8");
  await page.goto(`${demo}/library`);
  const take = (name: string, text: string) =>
    page
      .getByLabel("Table of an antenna or of parts, or file of radios")
      .setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  await take("broken.csv", csv.replace(/azimuth,H,0,0/, "azimuth,H,0,-4"));
  await expect(page.getByText("broken.csv was not taken; the library is as it was.")).toBeVisible();
  await expect(page.getByRole("cell", { name: "must lie between 0 and 100" })).toBeVisible();
  await take("own.csv", csv.replace("Arco 5-17/90", "Arco 5-17/90 ours"));
  await expect(page.getByRole("link", { name: "Brisote Arco 5-17/90 ours" })).toBeVisible();
  for (const name of [
    "Brisote Arco 5-17/90 ours",
    "Brisote Arco 5-16/120",
    "Kestrane Bocina 5-13/45",
    "Brisote Ronda 5-13",
  ])
    await page.getByRole("checkbox", { name: `Compare ${name}`, exact: true }).check();
  await expect(page.getByRole("checkbox", { name: "Compare Brisote Plato 5-30" })).toBeDisabled();
  await page.getByRole("link", { name: "Compare 4" }).click();
  await expect(page.getByRole("heading", { name: "4 antennas compared" })).toBeVisible();
  await expect(page.getByRole("img", { name: /^Azimuth, polar, Brisote Arco/ })).toBeVisible();
  await expect(page.getByRole("row", { name: /Chain imbalance/ })).toContainText("dB");
});

test("a radio is copied, written, refused with its bound, kept, and goes out and in as JSON", async ({
  page,
  demo,
  server,
}) => {
  await page.goto(`${demo}/library/radios/brisote-tramo-5`);
  await expect(page.getByRole("row", { name: /256-QAM ¾/ })).toContainText("dB");
  await page.getByRole("link", { name: "Copy" }).click();
  await page.getByLabel("Model", { exact: true }).fill("Tramo 5 L");
  await page.getByLabel("Greatest power").fill("99");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText("99 is over 40")).toBeVisible();
  await page.getByLabel("Greatest power").fill("29");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Brisote Tramo 5 L" })).toBeVisible();
  const saved = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as JSON" }).click();
  const json = readFileSync(await (await saved).path(), "utf8");
  expect(JSON.parse(json)).toMatchObject({ kind: "tejado-radios-1", radios: [{ powerMaxDbm: 29 }] });
  await page.getByRole("link", { name: "Library" }).click();
  await page.getByRole("button", { name: "Take Brisote Tramo 5 L out" }).click();
  await expect(page.getByRole("link", { name: "Brisote Tramo 5 L" })).toHaveCount(0);
  await page
    .getByLabel("Table of an antenna or of parts, or file of radios")
    .setInputFiles({ name: "radio.json", mimeType: "application/json", buffer: Buffer.from(json) });
  await expect(page.getByRole("link", { name: "Brisote Tramo 5 L" })).toBeVisible();
  const schema = (await (await page.request.get(`${server.origin}/schemas/radios.json`)).json()) as object;
  expect(schema).toHaveProperty("properties.radios");
});

test("another rule set shows what it would break before it is put in force; own rules are written", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/rules?set=en`);
  const breaks = page.getByRole("table", { name: /break this rule set/ });
  await expect(breaks.getByRole("row", { name: /Quarry to lighthouse/ })).toContainText("against 36.0");
  await page.getByRole("button", { name: /^Own rules/ }).click();
  await page.getByRole("button", { name: "Copy those of EN style" }).click();
  await expect(page.getByText(/Copied the rules/)).toBeVisible();
  await page.getByRole("button", { name: "Change 5470–5725" }).click();
  await page.getByLabel("EIRP at most").fill("many");
  await page.getByRole("button", { name: "Keep the rule" }).click();
  await expect(page.getByText('"many" is not a number')).toBeVisible();
  await page.getByLabel("EIRP at most").fill("50");
  await page.getByRole("button", { name: "Keep the rule" }).click();
  await expect(page.getByRole("cell", { name: "50 dBm EIRP" })).toBeVisible();
  await page.getByRole("button", { name: "Put Own rules in force" }).click();
  await expect(page.getByRole("button", { name: /^Own rules, in force/ })).toBeVisible();
  await page.goto(`${demo}/rules?set=cfr47`);
  await page.getByRole("button", { name: "Put 47 CFR style in force" }).click();
  await expect(page.getByRole("button", { name: /^47 CFR style, in force/ })).toBeVisible();
});

test("the plan's school, season and climate change what its links say", async ({ page, demo }) => {
  await page.goto(`${demo}/settings`);
  await page.getByLabel("Clearance: school").selectOption("twoCondition");
  await page.getByLabel("Season planned for").selectOption("bare");
  await page.getByLabel("Rain rate, 0.01 % of the year").fill("");
  await page.getByRole("button", { name: "Keep" }).click();
  await page.goto(`${demo}/paths?sel=link:link-long`);
  const clearance = page.getByRole("region", { name: "Clearance" });
  await expect(clearance).toContainText("two conditions");
  await expect(clearance.getByRole("row", { name: /100 % at k = 1.33/ })).toBeVisible();
  await expect(clearance.getByRole("row", { name: /the line at k = 0\.\d\d/ })).toBeVisible();
  await expect(page.getByRole("region", { name: "Availability" })).toContainText("by latitude");
  await page.keyboard.press("Control+z");
  await expect(clearance).toContainText("60 % at the plan");
});

test("the bench is worked from the keyboard", async ({ page, demo }) => {
  await page.goto(`${demo}/paths?sel=link:link-sub-44`);
  await page.getByRole("tab", { name: "Section" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("tab", { name: "Ways out" })).toBeFocused();
  await expect(page).toHaveURL(/panel=ways/);
  const search = page.getByRole("button", { name: "Search ways out" });
  for (let i = 0; i < 8 && !(await search.evaluate((node) => node === document.activeElement)); i++)
    await page.keyboard.press("Tab");
  await expect(search).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByText(/changes tried; \d+ ways out/)).toBeVisible();
  // A look at another tab loses nothing of what was found.
  await page.getByRole("tab", { name: "Ways out" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("table", { name: /Bands compared/ })).toBeVisible();
  await page.keyboard.press("ArrowLeft");
  await expect(page.getByText(/changes tried; \d+ ways out/)).toBeVisible();
  const way = page.getByRole("button", { name: /^Take in hand: / }).first();
  await way.focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("It works on paper")).toBeVisible();
});
