import type { Page } from "@playwright/test";
import { expect } from "./fixtures";
import type { RunningServer } from "./startServer";
import { ridgeGrid } from "./grid";

/** A new plan with nothing in it but its ground. */
export async function emptyPlan(page: Page, server: RunningServer, name: string): Promise<void> {
  await page.goto(server.origin);
  await page.getByLabel("Name").fill(name);
  await page.getByRole("button", { name: "Begin" }).click();
  await page.getByRole("link", { name: "Import files" }).click();
  await page.getByRole("tab", { name: "Terrain and cover" }).click();
  const buffer = Buffer.from(ridgeGrid());
  await page.getByLabel("Raster files").setInputFiles({ name: "ground.asc", mimeType: "text/plain", buffer });
  await page.getByRole("radio", { name: /^Bare ground/ }).check();
  await page.getByRole("button", { name: "Import the raster" }).click();
  await expect(page.getByText("Took 1 raster")).toBeVisible();
  await page.getByRole("link", { name: "Survey", exact: true }).click();
  await expect(page.getByRole("application", { name: /^Plan/ })).toHaveAttribute("data-ready", "true");
}
