import { readFile } from "node:fs/promises";
import { discard, expect, test } from "./fixtures";

test("the demo's facing sectors are parted by one nudge on the comb, or by one plan of all channels", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/channels`);
  const findings = page.getByRole("region", { name: "List of findings" });
  await expect(findings).toContainText("Ridge east at Ridge hut, on the same channel");
  const block = page.getByRole("slider", { name: "Channel of Quarry west" });
  await block.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press("Shift+ArrowRight");
  await expect(block).toHaveAttribute("aria-valuenow", "5240");
  await expect(page.getByText(/from the edge of Quarry to lighthouse on the same mast/)).toHaveAttribute(
    "data-apart",
    "510",
  );
  await expect(page.getByRole("region", { name: "Gain rate" })).toContainText("Casa");
  await expect(page.getByText("Nothing found in what this stage checks")).toBeVisible();
  await discard(page);
  await expect(block).toHaveAttribute("aria-valuenow", "5180");
  // The same by mouse.
  const box = (await block.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect(block).not.toHaveAttribute("aria-valuenow", "5180");
  await discard(page);

  await page.getByRole("button", { name: "Who hurts whom" }).click();
  const pairs = page.getByRole("region", { name: "Who hurts whom" });
  await expect(pairs.getByRole("row").nth(1)).toContainText("Ridge east");
  await expect(pairs.getByRole("row").nth(1)).toContainText("0 dB");

  await page.getByRole("button", { name: "Plan channels" }).click();
  await page.getByText("All may move").click();
  await page.getByLabel(/^Quarry to lighthouse/).check();
  await page.getByLabel(/^Quarry to lighthouse/).uncheck();
  await page.getByLabel("with radar avoidance (DFS)").uncheck();
  await page.getByRole("button", { name: "Lay the channels" }).click();
  const plan = (school: string) => page.locator(`[data-channel-plan="${school}"]`);
  await expect(plan("backToBack")).toBeVisible();
  await expect(plan("free")).toContainText(/the best possible/);
  // Another school, another plan, with its price.
  await expect(plan("headings")).not.toHaveText(await plan("free").innerText());
  await plan("free")
    .getByRole("button", { name: /^Take in hand/ })
    .click();
  await page.getByRole("button", { name: "Comb" }).click();
  await expect(page.getByText("Nothing found in what this stage checks")).toBeVisible();
  await discard(page);

  // A narrow beam hears most customers better; one outside the angle to which it can turn is heard worse.
  await page.getByRole("button", { name: "Receive beams" }).click();
  await page.getByLabel("Sector", { exact: true }).selectOption({ label: "School east, School roof" });
  const beam = page.locator("[data-beam]");
  await expect(beam.getByRole("row", { name: /Casa Dapen/ })).toContainText("+6.0 dB");
  await expect(beam.getByRole("row", { name: /annex/ })).toContainText("beside where the beam can look");
  await beam.getByRole("button", { name: "Take Abanico 5-16/90 in hand" }).click();
  await expect(page.getByText("listens through a beam already")).toBeVisible();
  await discard(page);
});

test("an outsider with a place is typed in, hurts whom it hurts line by line, and is taken out again", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo}/noise`);
  const form = page.getByRole("form", { name: "Add an outsider" });
  await form.getByRole("button", { name: "Add it" }).click();
  await expect(form.getByText("is not a number")).toHaveCount(3);
  for (const [label, value] of [
    ["Name", "Fish farm"],
    ["Latitude", "-37.60"],
    ["Longitude", "-30.17"],
    ["Frequency", "5180"],
    ["Sends", "500"],
  ] as const)
    await form.getByLabel(label, { exact: true }).fill(value);
  await form.getByRole("button", { name: "Add it" }).click();
  await expect(form.getByText("must be from 1 to 100")).toBeVisible();
  await form.getByLabel("Sends", { exact: true }).fill("50");
  await form.getByRole("button", { name: "Add it" }).click();
  await expect(page.getByRole("row", { name: /Fish farm/ })).toContainText("36.0 dBm, 50 %");

  await page.goto(`${demo}/channels?view=hurts`);
  await page
    .getByRole("button", { name: /^Tape of outsider Fish farm at/ })
    .first()
    .click();
  const tape = page.getByRole("region", { name: "Tape of the pair" });
  await expect(tape).toContainText("the outsider Fish farm");
  await expect(tape.getByRole("row", { name: /Fish farm sends/ })).toContainText("+33.0");
  await expect(tape).toContainText("Arrives on one chain");

  await page.goto(`${demo}/noise`);
  await page.getByRole("button", { name: "Change Fish farm" }).click();
  const change = page.getByRole("form", { name: "Change Fish farm" });
  await expect(change.getByLabel("Sends", { exact: true })).toHaveValue("50");
  await change.getByLabel("Looks at").fill("95");
  await change.getByRole("button", { name: "Keep it" }).click();
  await expect(page.getByRole("row", { name: /Fish farm/ })).toContainText("95°");

  await page.goto(`${demo}/export`);
  for (const kind of [/ sites$/, / subscribers$/, / links$/]) await page.getByLabel(kind).uncheck();
  await page.getByLabel(/ outsiders$/).check();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "GEOJSON" }).click(),
  ]);
  const written = await readFile(await download.path(), "utf8");
  const farm = (JSON.parse(written) as GeoJSON.FeatureCollection).features.find(
    ({ properties }) => properties!.name === "Fish farm",
  )!;
  expect(farm.properties).toMatchObject({ kind: "outsider", azimuthDeg: 95, timeShare: 0.5, eirpDbm: 36 });

  await page.goto(`${demo}/noise`);
  await page.getByRole("button", { name: "Take out Fish farm" }).click();
  await expect(page.getByRole("row", { name: /Fish farm/ })).toHaveCount(0);
});
