import { readFileSync } from "node:fs";
import { expect, test } from "./fixtures";

/** A picture that a camera could have taken, made in the browser. */
async function photograph(page: import("@playwright/test").Page): Promise<Buffer> {
  const base64 = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(2400, 1200);
    const context = canvas.getContext("2d")!;
    context.fillStyle = "#a8481f";
    context.fillRect(0, 0, 2400, 1200);
    const bytes = new Uint8Array(await (await canvas.convertToBlob({ type: "image/jpeg" })).arrayBuffer());
    return btoa(String.fromCharCode(...bytes));
  });
  return Buffer.from(base64, "base64");
}

test("places are dragged to their columns, looked over, and one import is one undo", async ({ page, demo }) => {
  await page.goto(`${demo}/import`);
  const text = "Wer;Breite;Laenge\nHof Eins;-37,600;-30,200\nHof Zwei;-37,601;-30,201\n";
  await page
    .getByLabel("Places file")
    .setInputFiles({ name: "hof.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await expect(page.getByRole("button", { name: "✕ 2 rejected" })).toBeVisible();
  await page.getByLabel("Name", { exact: true }).selectOption("Wer");
  await page.getByLabel("Latitude").selectOption("Breite");
  // The last column is dragged.
  const from = (await page.getByRole("button", { name: "Drag column Laenge" }).boundingBox())!;
  const to = (await page.locator("label", { hasText: "Longitude" }).boundingBox())!;
  await page.mouse.move(from.x + 4, from.y + 4);
  await page.mouse.down();
  await page.mouse.move(to.x + 30, to.y + 8, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByLabel("Longitude")).toHaveValue("2");
  await page.getByRole("button", { name: "Keep 2 places" }).click();
  await expect(page.getByText("hof.csv: 2 new, 0 changed.")).toBeVisible();
  await page.getByRole("link", { name: "To the survey" }).click();
  await page.getByLabel("Filter the list").fill("Hof");
  await expect(page.locator("[data-row]")).toHaveCount(2);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator("[data-row]")).toHaveCount(0);
});

test("the register is filtered, edited, filled down and pasted into from the keyboard, and exports what is chosen", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/register`);
  await page.getByLabel("Filter subscribers").fill("finca");
  await expect(page.getByText("7 shown, 0 chosen")).toBeVisible();
  const grid = page.getByRole("grid");
  await grid.focus();
  // Tier of the first row, then the same for the three that are chosen.
  for (let i = 0; i < 4; i++) await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await page.keyboard.type("farm");
  await page.keyboard.press("Enter");
  await expect(grid.getByRole("gridcell", { name: "farm", exact: true })).toHaveCount(1);
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Space");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Space");
  await page.keyboard.press("Home");
  await page.keyboard.press("Control+d");
  await expect(grid.getByRole("gridcell", { name: "farm", exact: true })).toHaveCount(3);
  await page.getByRole("button", { name: "Set for 2 chosen" }).click();
  await page.getByLabel("Field").selectOption("Status");
  await page.getByLabel("Becomes").selectOption("surveyed");
  await page.getByRole("button", { name: "Set for 2", exact: true }).click();
  await expect(grid.getByRole("row", { selected: true }).getByText("surveyed")).toHaveCount(2);
  // A paste that does not fit is refused whole. A dialog that closes gives the focus back where it came from, after a moment.
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await grid.focus();
  await expect(grid).toBeFocused();
  await page.keyboard.press("ArrowRight");
  await expect(grid).toHaveAttribute("aria-activedescendant", /-5$/);
  const paste = (text: string) =>
    grid.evaluate((element, pasted) => {
      const data = new DataTransfer();
      data.setData("text/plain", pasted);
      element.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
    }, text);
  await paste("4\tpole\nmany\troof");
  await expect(page.getByText(/Not kept\. .*People "many"/)).toBeVisible();
  await paste("4\tpole\n5\twall");
  await expect(page.getByText("Pasted 4 cells.")).toBeVisible();
  // What goes along is named first; undo, here too, brings all of it back.
  await page.getByLabel("Filter subscribers").fill("goat dairy");
  await grid.focus();
  await page.keyboard.press("Control+a");
  await page.getByRole("button", { name: "Take out" }).click();
  const asked = page.getByRole("alertdialog", { name: "Take out 1 subscribers?" });
  await expect(asked).toContainText("With them go 1 radio and 1 link.");
  await asked.getByRole("button", { name: "Take out" }).click();
  await expect(page.getByText("0 shown, 0 chosen")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("1 shown, 0 chosen")).toBeVisible();
  await page.getByLabel("Filter subscribers").fill("finca wall farm");
  await expect(page.getByText("1 shown, 0 chosen")).toBeVisible();
  await page.getByRole("button", { name: "Export 1" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "CSV" }).click();
  const csv = readFileSync(await (await download).path(), "utf8");
  expect(csv.split("\r\n")).toHaveLength(3);
  expect(csv).toContain(",wall,");
});

test("a wood drawn across a path blocks it; its corners can be typed; undo clears it", async ({ page, demo }) => {
  await page.goto(`${demo}/survey`);
  const plan = page.getByRole("application", { name: /^Plan/ });
  await expect(plan).toHaveAttribute("data-ready", "true");
  await page.getByRole("button", { name: "Draw" }).click();
  await page.getByRole("menuitem", { name: "Draw a wood" }).click();
  const corners = page.getByRole("status").filter({ hasText: /corner/ });
  await expect(corners).toHaveText("Click the corners");
  const box = (await plan.boundingBox())!;
  const click = (x: number, y: number) => page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  await click(0.3, 0.4);
  await expect(corners).toHaveText("1 corner");
  await click(0.36, 0.4);
  await expect(corners).toHaveText("2 corners");
  await click(0.36, 0.5);
  await expect(corners).toHaveText("3 corners");
  await click(0.3, 0.5);
  await expect(corners).toHaveText("4 corners");
  await page.getByRole("button", { name: "Finish outline" }).click();
  await expect(page.getByText("Drew a wood. Undo takes it back.")).toBeVisible();
  const sheet = page.getByRole("region", { name: "Outline" });
  // The window has the outline once every path over it is answered and its remedies are worked out.
  await expect(sheet).toBeVisible();
  await sheet.getByLabel("Height").fill("900");
  await sheet.getByRole("button", { name: "Keep" }).click();
  await expect(sheet.getByRole("alert")).toContainText("height must be at most 300");
  // Across the bridge between harbour and silo.
  await sheet.getByLabel("Height").fill("60");
  await sheet.getByLabel(/Corners/).fill("-37.625 -30.147\n-37.625 -30.125\n-37.622 -30.125\n-37.622 -30.147");
  await sheet.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText("Changed wood. Undo takes it back.")).toBeVisible();
  const blocked = page.locator('[data-finding="blocked"]').filter({ hasText: "Harbour hut – East silo" });
  await page.getByRole("link", { name: /^Paths/ }).click();
  await expect(blocked.first()).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(blocked).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Took back: Drew a wood")).toBeVisible();
});

test("the stand-in scanner fills the noise page, and the floor stands on the tape", async ({ page, demo }) => {
  await page.goto(`${demo}/noise`);
  await page.getByLabel("Site", { exact: true }).selectOption({ label: "Ridge hut (0)" });
  await page.getByLabel("Headings").fill("107");
  await page.getByRole("button", { name: "Scan", exact: true }).click();
  await expect(page.getByText("Kept 2 scans of Ridge hut.")).toBeVisible();
  await expect(page.locator(".apexcharts-series path").first()).toBeVisible();
  const row = page.getByRole("row", { name: /Ridge to harbour/ });
  await expect(row).toContainText(/5840 \/ 10 MHz.*−\d+\.\d dBm/);
  await page.getByLabel(/^Or rows of frequency/).fill("5500 -92\n5501 nothing");
  await page.getByRole("button", { name: "Keep the rows" }).click();
  await expect(page.getByRole("row", { name: /2 level nothing/ })).toBeVisible();
  await page.goto(`${demo}/paths?sel=link:link-medium`);
  await page.getByRole("tab", { name: "To Ridge hut" }).click();
  await page.getByRole("button", { name: "Noise floor" }).click();
  await expect(page.getByText(/interference above thermal/).first()).toBeVisible();
});

test("a photograph is made small, kept with its place, and shown", async ({ page, demo }) => {
  await page.goto(`${demo}/survey?sel=site:site-quarry`);
  const photos = page.getByRole("region", { name: "Photographs" });
  await photos
    .locator("input[type=file]")
    .setInputFiles({ name: "view.jpg", mimeType: "image/jpeg", buffer: await photograph(page) });
  const picture = photos.getByRole("img");
  // Behind the first look at a plan that was opened just now, which takes its time on a busy machine.
  await expect(picture).toBeVisible();
  await expect.poll(() => picture.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(1600);
  await photos
    .locator("input[type=file]")
    .setInputFiles({ name: "no.jpg", mimeType: "image/jpeg", buffer: Buffer.from("no picture") });
  await expect(page.getByText("no.jpg could not be taken")).toBeVisible();
});

test("the whole plan goes out as an archive and comes back as another plan", async ({ page, demo, server }) => {
  await page.goto(`${demo}/export`);
  await page.getByRole("button", { name: "Write the archive" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Fetch the archive" }).click();
  const path = await (await download).path();
  await page.goto(server.origin);
  await page
    .getByLabel("A plan archive")
    .setInputFiles({ name: "plan.zip", mimeType: "application/zip", buffer: readFileSync(path) });
  await expect(page).toHaveURL(/\/survey$/);
  await expect(page).not.toHaveURL(/isla-orvena/);
  await page.getByRole("button", { name: /^Ridge hut/ }).click();
  await expect(page.getByLabel("Sheet").getByLabel("Structure", { exact: true })).toHaveValue("hut with mast");
  await page.goto(server.origin);
  await page
    .getByLabel("A plan archive")
    .setInputFiles({ name: "no.zip", mimeType: "application/zip", buffer: Buffer.from("PK no") });
  await expect(page.getByRole("alert")).toContainText("archive");
});

test("a version is named, compared after a change, and gone back to", async ({ page, demo }) => {
  await page.goto(`${demo}/versions`);
  await page.getByLabel(/under a name/).fill("as planned");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.getByText('Kept as "as planned".')).toBeVisible();
  await page.goto(`${demo}/paths?sel=link:link-town`);
  const head = page.getByRole("slider", { name: "Height at School roof" });
  await head.focus();
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Kept.", { exact: true })).toBeVisible();
  await page.goto(`${demo}/versions`);
  await page.getByRole("link", { name: "Compare with now" }).first().click();
  await expect(page.getByRole("list", { name: "Differences" })).toContainText("✎ radios:");
  await page.getByRole("button", { name: "Go back to it" }).first().click();
  await expect(page.getByText('The plan stands as "as planned" again.')).toBeVisible();
  await page.goto(`${demo}/logbook?words=went`);
  await expect(page.getByRole("row", { name: /Went back to "as planned"/ }).first()).toBeVisible();
});

test("outlines with heights become obstacles, lines an overlay, each taken out again by undo", async ({
  page,
  demo,
}) => {
  const square = (lon: number, lat: number) => [
    [lon, lat],
    [lon + 0.001, lat],
    [lon + 0.001, lat + 0.001],
    [lon, lat],
  ];
  const file = {
    type: "FeatureCollection",
    features: [
      {
        type: "Feature",
        properties: { height: 11 },
        geometry: { type: "Polygon", coordinates: [square(-30.2, -37.6)] },
      },
      {
        type: "Feature",
        properties: {},
        geometry: {
          type: "LineString",
          coordinates: [
            [-30.25, -37.6],
            [-30.2, -37.62],
          ],
        },
      },
    ],
  };
  await page.goto(`${demo}/import?what=shapes`);
  await page
    .getByLabel("Lines and areas")
    .setInputFiles({ name: "town.geojson", mimeType: "application/json", buffer: Buffer.from(JSON.stringify(file)) });
  await expect(page.getByLabel("Height stands in")).toHaveValue("height");
  await page.getByRole("button", { name: "Take as obstacles" }).click();
  await expect(page.getByText("Imported 1 outlines from town.geojson. Undo takes it back.")).toBeVisible();
  await expect(page.getByRole("row", { name: /2 geometry LineString is not a polygon/ })).toBeVisible();
  await page.getByRole("button", { name: "Only show them" }).click();
  await expect(page.getByRole("row", { name: /town.geojson/ }).getByLabel("shown")).toBeChecked();
  await page.goto(`${demo}/survey`);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Took back: Added the overlay town.geojson")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("Took back: Imported 1 outlines")).toBeVisible();
  await page.goto(`${demo}/import?what=shapes`);
  await expect(page.getByText("The plan has 0 outlines")).toBeVisible();
});

test("the section goes out as numbers, drawing and picture; own tiles are off until an address is given", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/paths?sel=link:link-long`);
  for (const [button, begins] of [
    ["CSV", "distance_km,"],
    ["SVG", "<svg"],
    ["PNG", "\x89PNG"],
  ] as const) {
    const download = page.waitForEvent("download");
    await page.getByRole("group", { name: "Export the section" }).getByRole("button", { name: button }).click();
    const content = readFileSync(await (await download).path(), "latin1");
    expect(content.startsWith(begins)).toBe(true);
    expect(content.length).toBeGreaterThan(2000);
  }
  const asked: string[] = [];
  await page.route("**/*", (route) => {
    const { hostname } = new URL(route.request().url());
    if (hostname === "127.0.0.1") return route.continue();
    asked.push(hostname);
    return route.fulfill({ contentType: "image/svg+xml", body: '<svg xmlns="http://www.w3.org/2000/svg"/>' });
  });
  await page.goto(`${new URL(demo).origin}/you?from=/plans/isla-orvena/survey`);
  await page.getByLabel("Your name").fill("Ana");
  await page.getByLabel("Address").fill("ftp://tiles.test/{z}");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByText(/Address must be an http or https address/)).toBeVisible();
  expect(asked).toEqual([]);
  await page.getByLabel("Address").fill("https://tiles.test/{z}/{x}/{y}.png");
  await page.getByLabel("Attribution").fill("Test tiles");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page).toHaveURL(/survey/);
  await expect.poll(() => asked.includes("tiles.test")).toBe(true);
});

test("everything is backed up and restored from the page of plans", async ({ page, server }) => {
  await page.goto(server.origin);
  await page.getByRole("button", { name: "Back up now" }).click();
  await expect(page.getByText(/^Kept .*tar\.gz\. Opened again: \d+ files/)).toBeVisible();
  await page.getByLabel("Name").fill("After the backup");
  await page.getByRole("button", { name: "Begin" }).click();
  // Whoever leaves before the plan has been begun may leave without it.
  await expect(page.getByText("no terrain")).toBeVisible();
  await page.goto(server.origin);
  await expect(page.getByRole("link", { name: /After the backup/ })).toBeVisible();
  await page.getByRole("button", { name: "Restore" }).first().click();
  await page.getByRole("button", { name: "Replace all data by it" }).click();
  await expect(page.getByText(/^Restored\./)).toBeVisible();
  await expect(page.getByRole("link", { name: /After the backup/ })).toHaveCount(0);
});
