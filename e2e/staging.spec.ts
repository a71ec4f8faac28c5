import { readFileSync } from "node:fs";
import { expect, test } from "./fixtures";

test("devices are practised with, ticked off by hand, compared with their sheets, and secrets shown on demand only", async ({
  page,
  ownDemo,
}) => {
  await page.goto(ownDemo.replace(/plans\/.*/, "plans/isla-orvena/staging"));
  const table = page.getByRole("table", { name: "Devices in the order of the bench" });
  const client = table.getByRole("row", { name: /Casa Dator radio/ });
  await expect(client).toContainText("in its box");
  // Two pairs on one address, and a gateway outside its network: the plan has to be mended first.
  await expect(table.getByText(/^not ready: /).first()).toBeVisible();
  await page.getByRole("button", { name: /^Practise with all \d+$/ }).click();
  await expect(page.getByText(/^\d+ devices practised, .*, 0 collisions of addresses$/)).toBeVisible();
  await expect(client).toContainText("practised with a stand-in");
  // The sector's version went into the plan, as it would be noted of a real device.
  await page.getByRole("button", { name: "Casa Dator radio", exact: true }).click();
  await expect(page.getByLabel("Sheet").getByLabel("Firmware found")).not.toHaveValue("");

  await page.getByRole("button", { name: "Checklist" }).click();
  const step = (name: RegExp) => page.getByRole("checkbox", { name });
  await expect(page.getByText(/^Practised with a stand-in, PX/)).toBeVisible();
  await expect(step(/Pair and test/)).toBeChecked();
  // The first word of the real device puts the stand-in's away.
  await page.getByLabel("Checklist").getByLabel("Serial number").first().fill("SN-0042");
  await step(/^1\. Serial number/).check();
  await expect(step(/^1\. Serial number/)).toBeChecked();
  await expect(step(/Pair and test/)).not.toBeChecked();
  await expect(page.getByText(/^Practised with/)).toHaveCount(0);
  await page.reload();
  await expect(page.getByLabel("Checklist").getByLabel("Serial number").first()).toHaveValue("SN-0042");
  await page.getByRole("button", { name: "Devices" }).click();
  await expect(client).toContainText("SN-0042");
  await expect(client).toContainText("1 of 11 steps");

  // Two things asked for at once, faster than the page follows: neither undoes the other.
  const device = await page.getByRole("button", { name: "Lighthouse east", exact: true }).elementHandle();
  const view = await page.getByRole("button", { name: "Configuration" }).elementHandle();
  await page.evaluate((both) => both.forEach((one) => (one as HTMLElement).click()), [device, view]);
  const address = page.getByRole("row", { name: /^Address/ }).getByRole("cell");
  await expect(address.nth(2)).toHaveText(await address.nth(1).innerText());
  // A change that is kept makes the device differ from its sheet.
  const power = page.getByLabel("Sheet").getByLabel("Transmit power");
  const planned = Number(await power.inputValue());
  await power.fill(String(planned - 3));
  await power.press("Tab");
  await page.getByRole("button", { name: /^Keep Enter/ }).click();
  await expect(page.getByText("saved", { exact: true })).toBeVisible();
  await expect(page.getByRole("row", { name: /^Power to set, dBm/ })).toContainText(`${planned} · not as planned`);
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "JSON" }).click(),
  ]);
  const sheets = readFileSync(await download.path(), "utf8");
  await expect(page.getByRole("code")).toHaveCount(0);
  await page.getByRole("button", { name: "Show" }).first().click();
  const secret = await page.getByRole("code").innerText();
  expect(secret).toMatch(/^\w{20}$/);
  expect(sheets).not.toContain(secret);
  await page.getByRole("button", { name: "Hide" }).click();
  await expect(page.getByRole("code")).toHaveCount(0);
});
