import { discard, expect, test } from "./fixtures";
import { ridgeGrid } from "./grid";

const CSV = `kind;name;lat;lon;height;maxHeight;people;demand;feed
site;Alto Verne;2°59'00"S;11,005;;40;;;yes
site;Bajo Verne;-2,98;11,05;;15;;;
subscriber;Granja Uno;-2.97;11.02;6;9;4;25;
subscriber;Granja Dos;-2.9452;11.0532;6;9;3;25;
subscriber;Sin Lugar;-92;11.02;6;9;4;25;
`;

test("an empty plan with its own terrain and places goes the same way", async ({ page, server }) => {
  await page.goto(server.origin);
  await page.getByLabel("Name").fill("Verne");
  await page.getByRole("button", { name: "Begin" }).click();
  await expect(page.getByText("The plan is empty.")).toBeVisible();
  await page.getByRole("link", { name: "Import files" }).click();
  await expect(page.getByText("no terrain")).toBeVisible();

  const csv = { name: "places.csv", mimeType: "text/csv", buffer: Buffer.from(CSV) };
  await page.getByLabel("Places file").setInputFiles(csv);
  await expect(page.getByText("CSV, semicolon-separated, UTF-8, 5 rows.")).toBeVisible();
  await expect(page.getByRole("button", { name: "+ 4 new" })).toBeVisible();
  const rejected = page.getByRole("row", { name: /rejected.*Sin Lugar/ });
  await expect(rejected).toContainText('lat "-92" is not a latitude between −90 and 90°');
  await page.getByRole("button", { name: "Keep 4 places" }).click();
  await expect(page.getByText("places.csv: 4 new, 0 changed; 1 rejected row stays out.")).toBeVisible();
  // The same file again changes nothing; the rejected row can be mended in place.
  await expect(page.getByRole("button", { name: "= 4 as it is" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Keep 0 places" })).toBeDisabled();
  await page.getByLabel("Mend lat of row 6").fill("-2.96");
  await page.getByLabel("Mend lat of row 6").press("Enter");
  await expect(page.getByRole("button", { name: "+ 1 new" })).toBeVisible();

  await page.getByRole("tab", { name: "Terrain and cover" }).click();
  const takeGrid = async (name: string, text: string) => {
    await page.getByLabel("Raster files").setInputFiles({ name, mimeType: "text/plain", buffer: Buffer.from(text) });
    await page.getByRole("radio", { name: /^Bare ground/ }).check();
    await page.getByRole("button", { name: "Import the raster" }).click();
  };
  await takeGrid("broken.asc", ridgeGrid().replace("20 20", "20 x20"));
  await expect(page.getByText('height "x20"')).toBeVisible();
  await expect(page.getByText("The terrain stays as it was")).toBeVisible();
  await takeGrid("verne.asc", ridgeGrid());
  await expect(page.getByText("Took 1 raster with 40000 cells; 380 cells are holes")).toBeVisible();
  await expect(page.getByRole("row", { name: /verne.asc.*200 × 200/ })).toBeVisible();
  await page.getByRole("link", { name: "Survey", exact: true }).click();

  // A bridge across the ridge: blocked from the low side, and the section says from what height it clears.
  await page.getByRole("button", { name: /Bajo Verne/ }).click();
  await page.getByRole("tab", { name: "Bridges to other sites" }).click();
  await page.getByRole("button", { name: "Try a link with Alto Verne" }).click();
  await expect(page.getByText(/blocked|tight/).first()).toBeVisible();
  await expect(page.getByText(/Clear enough \(60 %\) from/).first()).toBeVisible();
  await discard(page);

  // A path into the hole is not answered as if the hole were sea.
  await page.getByRole("button", { name: /Granja Dos/ }).click();
  await page.getByRole("button", { name: "Try a link with Alto Verne" }).click();
  await expect(page.getByText("Unknown ground is not taken for sea level")).toBeVisible();
  await discard(page);

  await page.getByRole("button", { name: /Granja Uno/ }).click();
  await page.getByRole("button", { name: "Try a link with Alto Verne" }).click();
  await expect(page.getByText("It works on paper")).toBeVisible();
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  await page.getByRole("link", { name: "Write a reading" }).click();
  const ends = page.getByRole("group", { name: /^Received at/ });
  for (const i of [0, 1]) {
    const text = await ends.nth(i).locator("p .figures").first().textContent();
    await ends
      .nth(i)
      .getByLabel("First chain")
      .fill(String(Number(text!.replace("−", "-").replace(" dBm", "")) - 1));
  }
  await page.getByRole("button", { name: "Judge and keep" }).click();
  await expect(page.getByText(/proven|doubtful/).first()).toBeVisible();
  await page.getByRole("link", { name: "Back to the desk" }).click();
  await page.getByRole("button", { name: "Menu" }).click();
  await page.getByRole("menuitem", { name: "Logbook" }).click();
  await expect(page.getByRole("row").filter({ hasText: "Imported places.csv: 4 new" })).toBeVisible();
});
