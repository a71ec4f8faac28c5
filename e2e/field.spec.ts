import { chromium, type BrowserContext, type Page } from "@playwright/test";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { FieldNote } from "#core/crews";
import { expect, expectAccessible, test } from "./fixtures";

const PHONE = { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true };
const JOB = "job-2";

/** A phone of its own whose storage outlives its browser, as a real one's does. */
async function phone(directory: string): Promise<BrowserContext> {
  return chromium.launchPersistentContext(directory, {
    ...PHONE,
    executablePath: process.env.TEJADO_CHROMIUM ?? "/usr/bin/chromium",
    // A microphone that beeps.
    args: ["--no-sandbox", "--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream"],
  });
}

/** Takes the job along and goes to one end. */
async function takeAlong(page: Page, origin: string, who: string, place: string): Promise<void> {
  await page.goto(`${origin}/field/#/plan/isla-orvena`);
  await page.getByLabel(/^Your name/).fill(who);
  const job = page.getByRole("listitem").filter({ hasText: "Harbour hut – Ridge hut" });
  await job.getByRole("button", { name: "Take along" }).click();
  await page.getByRole("link", { name: `I am at ${place}` }).click();
  await expect(page.getByRole("heading", { name: place, level: 1 })).toBeVisible();
  // The page opens again without signal once its worker holds it.
  await page.evaluate(async () => void (await navigator.serviceWorker.ready));
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
}

/** What a thumb in a glove hits is at least 48 px wide and high; a box to tick is hit by its whole line. */
async function expectLargeTargets(page: Page, what: string): Promise<void> {
  const targets = page.locator(
    "button, a, input:not([type=checkbox]), label:has(input[type=checkbox]), textarea, summary",
  );
  const boxes = await Promise.all((await targets.all()).map((one) => one.boundingBox()));
  expect(boxes.length).toBeGreaterThan(6);
  const small = boxes.filter((box) => box && (box.height < 48 || box.width < 48));
  expect(small, what).toEqual([]);
}

const part = (page: Page, name: string) => page.getByRole("link", { name, exact: true }).click();
const waiting = (page: Page) => page.getByRole("status").filter({ hasText: /not sent yet/ });

/** Confirms everything, ticks the steps, sweeps and reads: some sixty entries. */
async function work(page: Page, levels: readonly [string, string]): Promise<void> {
  const boxes = page.getByRole("checkbox");
  for (let i = 0; i < (await boxes.count()); i++) {
    await boxes.nth(i).click();
    await expect(boxes.nth(i)).toBeChecked();
  }
  await part(page, "Steps");
  await expect(page.getByText(/^1\./)).toBeVisible();
  for (let i = 0; i < (await boxes.count()); i++) {
    await boxes.nth(i).click();
    await expect(boxes.nth(i)).toBeChecked();
  }
  await part(page, "Aim");
  await page.getByRole("button", { name: "in dBm" }).click();
  for (const axis of ["Azimuth", "Elevation"]) {
    await page.getByRole("radio", { name: axis }).click();
    if (axis === "Elevation") await page.getByRole("button", { name: "in dBm" }).click();
    for (let angle = -7; angle <= 8; angle++) {
      await page.getByLabel(/^On the scale/).fill(String(angle));
      await page.getByLabel(/^Reads/).fill((-47 - Math.min(14, ((angle - 1) / 2.6) ** 2 * 3)).toFixed(1));
      await page.getByRole("button", { name: "Log it" }).click();
      await expect(page.getByLabel(/^Reads/)).toHaveValue("");
    }
    await expect(page.getByText(/smaller angles/)).toBeVisible();
    await page.getByRole("button", { name: /^Lock / }).click();
    await expect(page.getByRole("button", { name: / is locked$/ })).toBeVisible();
  }
  await part(page, "Read");
  await page.getByLabel(/^First chain/).fill(levels[0]);
  await page.getByLabel(/^Second chain/).fill(levels[1]);
  await page.getByLabel(/^Noise/).fill("−96");
  await page.getByRole("button", { name: "Keep this reading" }).click();
  await expect(page.getByText("within the band")).toBeVisible();
}

const noted = (page: Page, origin: string) =>
  page.request.get(`${origin}/plans/isla-orvena/field/notes`).then((answer) => answer.json() as Promise<FieldNote[]>);

test("both ends work a job without signal, one is killed in the middle, and everything arrives once when there is signal", async ({
  page,
  ownDemo,
}) => {
  const { origin } = new URL(ownDemo);
  const [folderA, folderB] = ["a", "b"].map((side) => mkdtempSync(join(tmpdir(), `tejado-phone-${side}-`)));
  let a = await phone(folderA!);
  const b = await phone(folderB!);
  try {
    const [pageA, pageB] = [await a.newPage(), await b.newPage()];
    await takeAlong(pageA, origin, "Ilda", "Harbour hut");
    await takeAlong(pageB, origin, "Nuno", "Ridge hut");
    for (const tab of ["Steps", "Aim", "Read", "Talk", "Place", "Before"]) {
      await part(pageB, tab);
      await expectAccessible(pageB, `${tab} on the phone`);
      await expectLargeTargets(pageB, tab);
    }
    await a.setOffline(true);
    await b.setOffline(true);
    await work(pageB, ["−48", "−48.5"]);
    await part(pageB, "Place");
    await pageB.getByLabel(/^Notes on Ridge hut/).fill("The north guy is loose.");
    await pageB.getByRole("button", { name: "Keep the notes" }).click();
    // What was kept stands in the box, so that a second note adds to it; what is half typed outlives the tab and a reload.
    await part(pageB, "Talk");
    await pageB.getByLabel("Say", { exact: true }).fill("Half a sent");
    await part(pageB, "Place");
    await expect(pageB.getByLabel(/^Notes on Ridge hut/)).toHaveValue("The north guy is loose.");
    await pageB.getByLabel("Serial number").fill("HV-77");
    await pageB.reload();
    await expect(pageB.getByLabel("Serial number")).toHaveValue("HV-77");
    await expect(pageB.getByLabel(/^Notes on Ridge hut/)).toHaveValue("The north guy is loose.");
    await pageB.getByLabel("Serial number").fill("");
    await part(pageB, "Talk");
    await expect(pageB.getByLabel("Say", { exact: true })).toHaveValue("Half a sent");
    await pageB.getByLabel("Say", { exact: true }).fill("");
    await pageB.getByRole("button", { name: "Speak instead" }).click();
    await expect(pageB.getByRole("button", { name: /^Keep what was said: [2-9] s$/ })).toBeVisible();
    await pageB.getByRole("button", { name: /^Keep what was said/ }).click();
    await expect(pageB.getByLabel(/^Spoken by Nuno/)).toBeVisible();
    await expect(pageB.getByText("not sent yet").first()).toBeVisible();
    await work(pageA, ["−47.5", "−48"]);
    await expect(waiting(pageA)).toContainText(/[5-9]\d not sent yet/);

    // The battery dies: what was written is there when it comes back, without signal.
    await a.close();
    a = await phone(folderA!);
    await a.setOffline(true);
    const again = await a.newPage();
    await again.goto(`${origin}/field/#/job/isla-orvena/${JOB}/a/read`);
    await expect(waiting(again)).toContainText(/[5-9]\d not sent yet/);
    await expect(again.getByText(/Here: −47.5 and −48.0 dBm/)).toBeVisible();
    await again.getByRole("button", { name: "Done at this end" }).click();
    await expect(again.getByRole("button", { name: "Not done after all" })).toBeVisible();
    await part(pageB, "Read");
    await pageB.getByRole("button", { name: "Done at this end" }).click();

    // Meanwhile the desk writes the same notes.
    await page.goto(`${origin}/plans/isla-orvena/survey?sel=site:site-ridge`);
    await page.getByLabel("Notes").fill("Key at the dairy.");
    await page.getByRole("button", { name: /^Keep/ }).click();
    await expect(page.getByText(/^Nothing in hand/)).toBeVisible();

    // The signal comes and goes every second.
    for (let flap = 0; flap < 3; flap++)
      for (const isOff of [false, true]) {
        await a.setOffline(isOff);
        await b.setOffline(isOff);
        await page.waitForTimeout(1000);
      }
    await a.setOffline(false);
    await b.setOffline(false);
    await expect(again.getByText(/^✓ All sent/)).toBeVisible();
    await expect(pageB.getByText(/✓ All sent/)).toBeVisible();

    const notes = await noted(page, origin);
    expect(new Set(notes.map(({ id }) => id)).size).toBe(notes.length);
    for (const side of ["a", "b"] as const) {
      const here = notes.filter((note) => note.side === side);
      expect(here.filter(({ kind }) => kind === "level")).toHaveLength(32);
      expect(here.filter(({ kind }) => kind === "caution")).toHaveLength(8);
      expect(here.filter(({ kind }) => kind === "read")).toHaveLength(3);
      expect(here.length).toBeGreaterThan(55);
    }
    const spoken = notes.filter(({ kind }) => kind === "voice");
    expect(spoken.map(({ side, by }) => ({ side, by }))).toEqual([{ side: "b", by: "Nuno" }]);
    expect(spoken[0]!.value).toBeGreaterThanOrEqual(2);
    const voice = await page.request.get(`${origin}/plans/isla-orvena/field/voices/${spoken[0]!.id}`);
    expect([voice.status(), voice.headers()["content-type"]]).toEqual([200, "audio/webm"]);
    expect((await voice.body()).length).toBeGreaterThan(1000);
    // The conflict is told in plain words, and hers is put in its place.
    const open = pageB.getByRole("region", { name: "To decide" });
    await expect(open).toContainText("Key at the dairy.");
    await expect(open).toContainText("The north guy is loose.");
    await open.getByRole("button", { name: "Put mine" }).click();
    await expect(open).toHaveCount(0);
    await expect(async () => {
      await page.reload();
      await expect(page.getByLabel("Notes")).toHaveValue("The north guy is loose.");
    }).toPass();

    // The desk sees the job done and the link proven, and the certificate says so.
    await page.goto(`${origin}/plans/isla-orvena/install`);
    await expect(page.locator(`[data-visit="${JOB}"]`)).toContainText("● done");
    await expect(page.locator(`[data-visit="${JOB}"]`)).toContainText("Ridge hut: done");
    const certificate = await page.request.get(`${origin}/plans/isla-orvena/visits/${JOB}/certificate.pdf`);
    expect([certificate.status(), certificate.headers()["content-type"]]).toEqual([200, "application/pdf"]);
    await page.goto(`${origin}/plans/isla-orvena/links/link-medium/proof`);
    const newest = page.getByRole("article").first();
    await expect(newest).toContainText("Ilda and Nuno");
    await expect(newest).toContainText("−47.5 and −48.0 dBm at Harbour hut, −48.0 and −48.5 dBm at Ridge hut");
    await expect(newest).toContainText("proven");
  } finally {
    await a.close();
    await b.close();
    for (const folder of [folderA!, folderB!]) rmSync(folder, { recursive: true, force: true });
  }
});

test("a job that an earlier Tejado put on the phone comes anew by itself", async ({ demo }) => {
  const folder = mkdtempSync(join(tmpdir(), "tejado-phone-old-"));
  const phoneOf = await phone(folder);
  try {
    const page = await phoneOf.newPage();
    const { origin } = new URL(demo);
    await takeAlong(page, origin, "Ilda", "Harbour hut");
    await page.evaluate(
      () =>
        new Promise<void>((resolve, reject) => {
          const opening = indexedDB.open("tejado-field");
          opening.onsuccess = () => {
            const packs = opening.result.transaction("packs", "readwrite").objectStore("packs");
            const reading = packs.openCursor();
            reading.onsuccess = () => {
              const cursor = reading.result;
              if (!cursor) return;
              const { format, ...old } = cursor.value as { format?: number; madeAt: string };
              if (format === undefined) reject(new Error("packs have no format"));
              cursor.update({ ...old, madeAt: "2020-02-02T02:02:00.000Z" });
            };
            packs.transaction.oncomplete = () => resolve();
          };
        }),
    );
    await page.goto(`${origin}/field/`);
    await page.reload();
    await expect(page.locator(`[data-job="${JOB}"]`)).toBeVisible();
    await expect(page.locator(`[data-job="${JOB}"]`)).not.toContainText("2020-02-02");
    await expect(page.getByText("Fetched by an earlier Tejado")).toHaveCount(0);
  } finally {
    await phoneOf.close();
    rmSync(folder, { recursive: true, force: true });
  }
});

test("jobs are proposed, given a day and a crew, dragged to another day, and taken back by undo", async ({
  page,
  ownDemo,
}) => {
  const { origin } = new URL(ownDemo);
  // One sector's customers wait for the next stage of growth.
  await page.goto(`${origin}/plans/isla-orvena/sectors?sel=radio:ap-quarry-w`);
  await page.getByLabel("Stage of growth").selectOption("2");
  await page.getByRole("button", { name: /^Keep/ }).click();
  await expect(page.getByText(/^Nothing in hand/)).toBeVisible();
  await page.goto(`${origin}/plans/isla-orvena/install`);
  await expect(page.getByText(/^\d links of later stages wait too\.$/)).toBeVisible();
  await page.getByRole("button", { name: /^Propose \d+ jobs$/ }).click();
  await expect(page.getByRole("button", { name: "Nothing waits in this stage" })).toBeVisible();
  await page.getByLabel("Stages of growth").selectOption("2");
  await page.getByRole("button", { name: /^Propose \d jobs$/ }).click();
  await expect(page.getByRole("button", { name: "Every link has its job" })).toBeVisible();
  await expectAccessible(page, "the board of jobs");
  const card = page.getByRole("region", { name: "No day yet" }).getByRole("listitem").filter({ hasText: "Casa Fonve" });
  await card.getByRole("button", { name: "Harbour hut – Casa Fonve", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Day").fill("2026-12-01");
  await dialog.getByLabel("Begins").fill("25:00");
  await dialog.getByLabel("Notes").focus();
  await expect(dialog.getByText("Begins is no time such as 09:30")).toBeVisible();
  await dialog.getByLabel("Begins").fill("9:30");
  await dialog.getByLabel("Notes").focus();
  await dialog.getByLabel("Crew at Casa Fonve").selectOption({ label: "Ridge crew" });
  await expect(dialog.getByText(/Ridge crew is at Quarry mast – Lighthouse until 11:\d\d/)).toBeVisible();
  await page.keyboard.press("Escape");
  const tuesday = page.getByRole("region", { name: "2026-12-01" });
  const moved = tuesday.locator('[data-visit="job-6"]');
  await expect(moved).toContainText("09:30");
  const handle = moved.getByRole("button", { name: /^Move the job/ });
  const [from, to] = [
    (await handle.boundingBox())!,
    (await page.getByRole("region", { name: "No day yet" }).boundingBox())!,
  ];
  await page.mouse.move(from.x + 4, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x - 60, from.y + 30, { steps: 5 });
  await page.mouse.move(to.x + 100, to.y + 120, { steps: 10 });
  await page.mouse.up();
  await expect(moved).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(moved).toHaveCount(1);
  // Nobody alone: the crew shrinks to one, and its jobs say so.
  await page.getByRole("button", { name: "Crews", exact: true }).click();
  const crew = page.locator('[data-crew="crew-ridge"]');
  await crew.getByLabel("People, one a line").fill("Nuno Leal");
  await crew.getByLabel("Telephone").focus();
  await expect(crew.getByText("One person: nobody climbs alone.")).toBeVisible();
  const calendar = await page.request.get(`${origin}/plans/isla-orvena/jobs.ics?crew=crew-ridge`);
  expect(await calendar.text()).toContain("DTSTART:20261201T093000");
});

test("through the phone's camera the far end stands where it is, and the cross on a known site puts the compass right", async ({
  demo,
}) => {
  const folder = mkdtempSync(join(tmpdir(), "tejado-phone-camera-"));
  const phoneOf = await phone(folder);
  try {
    const page = await phoneOf.newPage();
    await takeAlong(page, new URL(demo).origin, "Ilda", "Harbour hut");
    await expect(page.getByText(/Contour lines every \d+ m/)).toBeVisible();
    await part(page, "Aim");
    const heading = Number.parseFloat(
      await page
        .getByText(/^\d+\.\d°$/)
        .first()
        .innerText(),
    );
    await page.getByRole("button", { name: "Look through the camera" }).click();
    const camera = page.getByRole("region", { name: "Camera" });
    await expect
      .poll(() => camera.locator("video").evaluate((video: HTMLVideoElement) => video.videoWidth))
      .toBeGreaterThan(0);
    const hold = (headingDeg: number) =>
      page.evaluate((deg) => {
        const held = { alpha: (720 - deg) % 360, beta: 90, gamma: 0, absolute: true };
        dispatchEvent(new DeviceOrientationEvent("deviceorientationabsolute", held));
      }, headingDeg);
    await hold(heading - 100);
    await expect(camera.getByRole("status")).toHaveText(/^Ridge hut, .* km: 100° to the right, \d+° (higher|lower)$/);
    await expect(camera.locator("[data-mark^='Ridge hut']")).toHaveCount(0);
    await hold(heading);
    await expect(camera.getByRole("status")).toContainText(/: 0° to the (left|right)/);
    const mark = (await camera.locator("[data-mark^='Ridge hut'] circle").first().boundingBox())!;
    const picture = (await camera.locator("video").boundingBox())!;
    expect(Math.abs(mark.x + mark.width / 2 - picture.x - picture.width / 2)).toBeLessThan(12);
    // The compass is off by 20°: the cross stands on a known site while the phone tells another heading.
    const known = camera.getByRole("button", { name: /^The cross is on/ }).last();
    const turnTo = async () => Number(/: (\d+)°/.exec(await camera.getByRole("status").innerText())![1]);
    await hold(heading + 20);
    const before = await turnTo();
    expect(before).toBeGreaterThan(18);
    await known.click();
    await expect(camera.getByText(/^Set by what the cross was put on/)).toBeVisible();
    expect(await turnTo()).not.toBe(before);
    await expectAccessible(page, "the camera");
    await expectLargeTargets(page, "the camera");
    await camera.getByRole("button", { name: "Close the camera" }).click();
    await expect(camera).toHaveCount(0);
  } finally {
    await phoneOf.close();
    rmSync(folder, { recursive: true, force: true });
  }
});
