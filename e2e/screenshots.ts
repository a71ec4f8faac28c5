import { join, dirname } from "node:path";
import { fileURLToPath } from "node:url";
import { test } from "./fixtures";

const FOLDER = join(dirname(dirname(fileURLToPath(import.meta.url))), "docs", "screenshots");

interface Shot {
  name: string;
  path: string;
  field?: boolean;
  dark?: boolean;
  /** Takes the first remedy in hand before the picture. */
  inHand?: boolean;
}

const SHOTS: Shot[] = [
  { name: "survey", path: "/plans/isla-orvena/survey?sel=subscriber:sub-58" },
  { name: "paths", path: "/plans/isla-orvena/paths?sel=link:link-long" },
  { name: "change-in-hand", path: "/plans/isla-orvena/paths?sel=link:link-long", inHand: true },
  { name: "paths-dark", path: "/plans/isla-orvena/paths?sel=link:link-sub-44", dark: true },
  { name: "install", path: "/plans/isla-orvena/install?sel=link:link-medium" },
  { name: "proof", path: "/plans/isla-orvena/proof?sel=link:link-medium" },
  { name: "import", path: "/plans/isla-orvena/import" },
  { name: "crew-sheet", path: "/plans/isla-orvena/links/link-medium/sheet", field: true },
  { name: "reading", path: "/plans/isla-orvena/links/link-medium/proof", field: true },
];

for (const shot of SHOTS) {
  test(`picture of ${shot.name}`, async ({ page, server }) => {
    if (shot.field) await page.setViewportSize({ width: 390, height: 844 });
    await page.emulateMedia({ colorScheme: shot.dark ? "dark" : "light" });
    await page.goto(`${server.origin}${shot.path}`, { waitUntil: "networkidle" });
    if (shot.inHand) await page.getByRole("button", { name: "Take in hand" }).first().click();
    await page.waitForTimeout(1200);
    await page.screenshot({ path: join(FOLDER, `${shot.name}.png`) });
  });
}
