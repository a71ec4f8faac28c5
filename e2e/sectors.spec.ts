import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { emptyPlan } from "./emptyPlan";
import { expect, test } from "./fixtures";

/** A mast and forty houses: thirty in an arc to its east, ten behind it, all before the ridge. */
function hamlet(): string {
  const lines = ["kind;name;lat;lon;height;maxHeight;people;demand;feed", "site;Mast;-2.972;11.008;;30;;;yes"];
  for (let i = 0; i < 40; i++) {
    const [lat, lon] =
      i < 30
        ? [-2.983 + (i % 10) * 0.0022, 11.013 + Math.floor(i / 10) * 0.002]
        : [-2.978 + (i - 30) * 0.0012, 11.0035];
    lines.push(`subscriber;House ${i + 1};${lat.toFixed(5)};${lon.toFixed(5)};6;9;3;2;`);
  }
  return `${lines.join("\n")}\n`;
}

test("from an empty plan: sectors are proposed, taken, turned, seen on the ground, everybody attached, and the raster taken out", async ({
  page,
  server,
}) => {
  await emptyPlan(page, server, "Hamlet");
  await page.getByRole("link", { name: "Import", exact: true }).click();
  await page
    .getByLabel("Places file")
    .setInputFiles({ name: "hamlet.csv", mimeType: "text/csv", buffer: Buffer.from(hamlet()) });
  await page.getByRole("button", { name: "Keep 41 places" }).click();
  await expect(page.getByText("hamlet.csv: 41 new")).toBeVisible();
  await page.getByRole("link", { name: "Sectors", exact: true }).click();

  // Nothing stands on the mast yet: the schools stand side by side, one is recommended with its reason.
  await expect(page.getByText("No sector stands on this site yet")).toBeVisible();
  await page.getByRole("button", { name: "Ways to serve" }).click();
  const school = (name: string) => page.locator(`[data-school="${name}"]`);
  await expect(school("omni")).toContainText("/40");
  await expect(school("customers")).toContainText("/40");
  await expect(page.locator("[data-recommended]")).toContainText("of 120 people");
  await school("customers").getByRole("button", { name: "Take in hand" }).click();
  await expect(page.locator("[data-in-hand=Served]")).toContainText("→ 4");

  // The rose shows them; a heading is turned by key, and who is served follows at once.
  await page.getByRole("button", { name: "Rose" }).click();
  const heading = page.locator("[data-heading]").first();
  await expect(heading).toBeVisible();
  await expect(page.locator("[data-customer]")).toHaveCount(40);
  const before = Number(await heading.getAttribute("aria-valuenow"));
  await heading.focus();
  await page.keyboard.press("Shift+ArrowRight");
  await expect(heading).toHaveAttribute("aria-valuenow", String((before + 10) % 360));
  await page.keyboard.press("Shift+ArrowLeft");
  // The same with the mouse, dragged round by a quarter and back.
  const box = (await heading.boundingBox())!;
  const rose = (await page.getByRole("group", { name: /seen from above/ }).boundingBox())!;
  const middle = { x: rose.x + rose.width / 2, y: rose.y + rose.height / 2 };
  const from = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const handle = page.locator("[data-heading] circle").nth(1);
  const at = (await handle.boundingBox())!;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(middle.x + (from.y - middle.y), middle.y - (from.x - middle.x), { steps: 6 });
  await page.mouse.up();
  await expect(heading).not.toHaveAttribute("aria-valuenow", String(before));
  await page.getByLabel("Its heading").fill(String(before));
  await expect(heading).toHaveAttribute("aria-valuenow", String(before));
  await expect(page.locator("[data-in-hand=Served]")).toContainText("→ 40");
  await page.getByRole("button", { name: /^Keep/ }).click();

  // Kept: the elevation view has everybody, and the coverage answers cell by cell.
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  await expect(page.locator("[data-width-words]")).toContainText("at −3 dB");
  await page.getByRole("button", { name: "Coverage" }).click();
  await expect(page.locator("[data-coverage-state=whole]")).toBeAttached();
  await expect(page.getByRole("list", { name: "Legend" })).toContainText("Mbit/s, at least");
  const plan = page.getByRole("application", { name: /^Plan/ });
  await plan.click({ position: { x: 330, y: 60 } });
  await expect(page.locator("[data-cell]")).toContainText(/dBm on a chain|not known/);
  await page.getByLabel("Shown").selectOption("why");
  await expect(page.getByRole("list", { name: "Legend" })).toContainText("blocked by the ground");
  await page.getByLabel("Shown").selectOption("level");
  const folder = mkdtempSync(join(tmpdir(), "tejado-cover-"));
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "GeoTIFF" }).click(),
  ]);
  const file = join(folder, "level.tif");
  await download.saveAs(file);
  const { stdout, status } = spawnSync("gdalinfo", ["-stats", file], { encoding: "utf8" });
  expect(status).toBe(0);
  expect(stdout).toContain("WGS 84");
  expect(stdout).toMatch(/Type=Float32/);
  expect(stdout).toMatch(/Maximum=-[2-6]\d\./);
  rmSync(folder, { recursive: true, force: true });

  // A reload shows the same at once: the losses lie with the plan.
  await page.reload();
  await expect(page.locator("[data-coverage-state=whole]")).toBeAttached();
});
