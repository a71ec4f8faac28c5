import { expect, test } from "./fixtures";

const PAGES = [
  ...["survey", "paths?sel=link:link-medium", "sectors?sel=radio:ap-ridge-e", "channels", "capacity", "kit"],
  ...[
    "kit?view=chains",
    "kit?view=procedures",
    "bench",
    "install",
    "install?view=crews",
    "install?view=links",
    "proof",
    "watch?sel=link:link-long",
    "watch?view=sources",
    "watch?view=alarms",
  ],
  ...["register", "noise", "import", "export", "logbook", "versions", "library", "library/antennas"],
  ...[
    "library/radios/brisote-vela-5",
    "rules",
    "settings",
    "people",
    "links/link-medium/sheet",
    "links/link-medium/proof",
  ],
];

test("no page of a plan is wider than a phone, and the open stage stands in sight", async ({ page, demo }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const wide: string[] = [];
  for (const path of PAGES) {
    await page.goto(`${demo}/${path}`);
    await page.waitForLoadState("networkidle");
    const width = await page.evaluate(() => document.documentElement.scrollWidth);
    if (width > 390) wide.push(`${path}: ${width} px`);
    const stage = page.getByRole("navigation", { name: "Stages" }).locator('[aria-current="page"]');
    if ((await stage.count()) === 0) continue;
    const box = (await stage.boundingBox())!;
    if (box.x < 0 || box.x + box.width > 390) wide.push(`${path}: its stage is out of sight`);
  }
  expect(wide).toEqual([]);
});
