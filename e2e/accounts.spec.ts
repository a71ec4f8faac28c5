import { spawnSync } from "node:child_process";
import { rmSync } from "node:fs";
import { get } from "node:http";
import { RULES } from "../app/access/rules";
import { addressOf, PATTERNS } from "./addresses";
import { demoDirectory, invited, makeKeeper, PASSWORD, postForm, signInAs, withOpenServer } from "./accounts";
import { expect, expectAccessible, test } from "./fixtures";

const PLAN = "/plans/:planId";
/** Who may do what, said here once more and otherwise than the application says it. */
const PUBLIC = [
  "/health",
  "/preferences",
  "/sign-in",
  "/passkeys",
  "/invitations/:token",
  "/schemas/radios.json",
  "/schemas/rows.json",
];
const KEEPERS = ["/people", "/backups", "/backups/:name"];
const ROOF = [
  `${PLAN}/field`,
  `${PLAN}/field/voices`,
  `${PLAN}/field/voices/:noteId`,
  `${PLAN}/links/:linkId/proof`,
  `${PLAN}/photos`,
  `${PLAN}/photos/:photoId`,
];
const CREW_READS = [
  ...[...ROOF, `${PLAN}/crew`, `${PLAN}/links/:linkId/sheet`, `${PLAN}/links/:linkId/sheet.pdf`, `${PLAN}/jobs.ics`],
  ...[`${PLAN}/visits/:visitId/pack.pdf`, `${PLAN}/visits/:visitId/certificate.pdf`],
];
const NOBODY_WRITES = [
  ...[...CREW_READS.filter((pattern) => !ROOF.includes(pattern)), `${PLAN}/field/notes`],
  ...["links/:linkId", "learned", "month.pdf", "run.pdf"].map((name) => `${PLAN}/watch/${name}`),
];
/** Questions that are sent as a change and change nothing. */
const QUESTIONS = [
  ...[
    "profiles",
    "relief/:z/:x/:y",
    "names",
    "ground",
    "heard",
    "around",
    "sectors-heard",
    "removal",
    "since",
    "window",
  ],
  ...["events", "places", "remedies", "views", "cells-hear"],
].map((name) => `${PLAN}/${name}`);

type Who = "nobody" | "stranger" | "viewer" | "crew" | "planner" | "owner" | "keeper";
function may(who: Who, pattern: string, isChange: boolean): boolean {
  if (PUBLIC.includes(pattern)) return true;
  if (who === "nobody") return false;
  if (KEEPERS.includes(pattern)) return who === "keeper";
  if (!pattern.startsWith(PLAN)) return true;
  if (who === "stranger") return false;
  if (isChange && NOBODY_WRITES.includes(pattern)) return false;
  const isOwner = who === "owner" || who === "keeper";
  if (pattern === `${PLAN}/people`) return isOwner;
  if (isOwner || who === "planner") return true;
  if (who === "crew") return isChange ? ROOF.includes(pattern) : CREW_READS.includes(pattern);
  return isChange ? QUESTIONS.includes(pattern) : pattern !== `${PLAN}/staging/notes`;
}

const PLAN_HERE = "/plans/isla-orvena";
/** Gives a crew of one account the job on the link that is walked. */
async function giveJob(base: string, keeper: string, login: string): Promise<void> {
  const crew = {
    id: "crew-own",
    planId: "isla-orvena",
    name: "Own",
    people: "",
    radioChannel: "",
    phone: "",
    logins: [login],
  };
  const job = {
    ...{ id: "job-crew", planId: "isla-orvena", linkId: "link-sub-12", work: "build", day: "", startMinute: 480 },
    ...{ minutes: 60, crewAId: null, crewBId: crew.id, afterIds: [], weather: "", powerOff: "notNeeded" },
    ...{ climb: "notNeeded", neighboursTold: true, packed: true, state: "planned", stopped: "", notes: "" },
  };
  const patches = [
    { kind: "crews", id: crew.id, put: crew },
    { kind: "visits", id: job.id, put: job },
  ];
  const kept = await fetch(`${base}${PLAN_HERE}/changes`, {
    method: "POST",
    headers: { origin: base, cookie: keeper, "content-type": "application/json" },
    body: JSON.stringify({ intent: "keep", op: `give-${login}`, what: "A job", patches }),
  });
  expect(await kept.text()).toContain('"ok":true');
}

test("every address has its rule, and answers every role as it should, to look and to change", async () => {
  expect(Object.keys(RULES).sort()).toEqual([...PATTERNS].sort());
  await withOpenServer(async ({ base }) => {
    const keeper = await signInAs(base, "ana");
    const sessions: Record<Who, string> = { nobody: "", keeper } as Record<Who, string>;
    sessions.stranger = await invited(base, keeper, null, "stranger");
    for (const role of ["viewer", "crew", "planner", "owner"] as const)
      sessions[role] = await invited(base, keeper, role, role);
    // A crew sees what it has a job on, and nothing else of the plan.
    await giveJob(base, keeper, "crew");
    expect(
      (await fetch(`${base}${PLAN_HERE}/links/link-medium/sheet`, { headers: { cookie: sessions.crew } })).status,
    ).toBe(404);
    const listed = await fetch(`${base}${PLAN_HERE}/field`, { headers: { cookie: sessions.crew } });
    expect(((await listed.json()) as { visits: { id: string }[] }).visits.map(({ id }) => id)).toEqual(["job-crew"]);
    const wrong: string[] = [];
    for (const pattern of PATTERNS)
      for (const who of Object.keys(sessions) as Who[])
        for (const method of ["GET", "POST"] as const) {
          const stop = new AbortController();
          const response = await fetch(base + addressOf(pattern), {
            ...{ method, redirect: "manual", signal: stop.signal },
            headers: { cookie: sessions[who], origin: base, "content-type": "application/x-www-form-urlencoded" },
            ...(method === "POST" ? { body: "nothing=x" } : {}),
          });
          const { status } = response;
          // What streams is left as soon as it has begun.
          const isStream = response.headers.get("content-type")?.startsWith("text/event-stream") ?? false;
          const text = isStream ? "" : await response.text();
          stop.abort();
          const isRefused = /Sign in first\.|Your role does not allow|nothing for you/.test(text);
          if (isRefused === may(who, pattern, method === "POST"))
            wrong.push(`${who} ${method} ${pattern}: ${status} ${text.slice(0, 60)}`);
          if (status >= 500) wrong.push(`${who} ${method} ${pattern}: ${status}`);
        }
    expect(wrong).toEqual([]);
    // Another host's name is refused before anything else, and guesses are counted.
    const status = await new Promise((done) =>
      get(`${base}/health`, { headers: { host: "elsewhere.test" } }, (answer) => done(answer.statusCode)),
    );
    expect(status).toBe(421);
    for (let i = 0; i < 9; i++) await postForm(base, "/sign-in", { login: "ana", password: "a guess of many" });
    expect(await signInAs(base, "ana")).toBe("");
  });
});

test("without an account it refuses to answer a network and says how to make one; bad passwords are refused by name", async () => {
  const directory = demoDirectory();
  const start = (...flags: string[]) =>
    spawnSync(process.execPath, ["scripts/start.mjs", "--port", "0", ...flags], {
      ...{ encoding: "utf8", timeout: 60_000 },
      env: { ...process.env, TEJADO_DATA: directory },
    });
  const refused = start("--host", "0.0.0.0", "--name", "localhost");
  expect([refused.status, refused.stderr]).toEqual([1, expect.stringContaining("npm run account")]);
  const proxied = start("--behind-proxy", "1", "--name", "localhost");
  expect([proxied.status, proxied.stderr]).toEqual([1, expect.stringContaining("npm run account")]);
  expect(start("--host", "0.0.0.0").stderr).toContain("--name must say");
  expect(start("--cert", "x.pem").stderr).toContain("--cert and --key belong together");
  const short = makeKeeper(directory, "ana", "short");
  expect([short.status, short.stderr.trim()]).toEqual([1, "The password must have 12 characters or more."]);
  expect(makeKeeper(directory).stdout).toContain("Ana Ruiz keeps this Tejado now and signs in as ana.");
  expect(makeKeeper(directory).stderr).toContain("--login is taken; choose another.");
  rmSync(directory, { recursive: true, force: true });
});

test("people sign in, are invited, work under their own names, and are shut out when they leave", async ({
  page,
  browser,
}) => {
  await withOpenServer(async ({ base }) => {
    await page.goto(`${base}/plans/isla-orvena/survey`);
    await expect(page.getByRole("heading", { name: "Sign in" })).toBeVisible();
    await expectAccessible(page, "sign in");
    await page.getByLabel("Login").fill("ana");
    await page.getByLabel("Password").fill("not her password");
    await page.getByRole("button", { name: "Sign in", exact: true }).click();
    await expect(page.getByRole("alert")).toHaveText("This login and password do not open an account.");
    await page.getByLabel("Password").fill(PASSWORD);
    await page.getByRole("button", { name: "Sign in", exact: true }).click();
    await expect(page).toHaveURL(`${base}/plans/isla-orvena/survey`);

    // The same words for a login that nobody has.
    const nobody = await postForm(base, "/sign-in", { login: "nobody", password: "not her password" });
    expect(nobody.status).toBe(401);
    expect(await nobody.text()).toContain("This login and password do not open an account.");

    await page.goto(`${base}/plans/isla-orvena/people`);
    await page.getByLabel("Invite as").selectOption("planner");
    await page.getByRole("button", { name: "Make a link" }).click();
    const path = await page.locator("[data-invitation]").textContent();
    await expectAccessible(page, "people of a plan");

    const other = await browser.newContext();
    const guest = await other.newPage();
    await guest.goto(path!);
    await expect(guest.getByText("Ana Ruiz invites you to Isla Orvena, as planner.")).toBeVisible();
    await guest.getByLabel("Name, as it stands in the logbook").fill("Bea Solano");
    await guest.getByLabel("Login").fill("ana");
    await guest.getByLabel("Password").fill(PASSWORD);
    await guest.getByRole("button", { name: "Make my account" }).click();
    await expect(guest.getByText("Login is taken; choose another")).toBeVisible();
    await guest.getByLabel("Login").fill("Bea");
    await guest.getByLabel("Password").fill(PASSWORD);
    await guest.getByRole("button", { name: "Make my account" }).click();
    await expect(guest.getByText("Signed in as Bea Solano.")).toBeVisible();
    await guest.goto(path!);
    await expect(guest.getByText("taken already, was withdrawn, or is over")).toBeVisible();

    // What she changes is signed with her account's name, whatever a cookie says.
    await guest.goto(`${base}/plans/isla-orvena/survey?sel=site:site-tower`);
    await guest.getByLabel("Notes").fill("Seen from the road.");
    await guest.getByRole("button", { name: /^Keep/ }).click();
    await expect(guest.getByText(/^Nothing in hand/)).toBeVisible();
    await guest.goto(`${base}/plans/isla-orvena/logbook`);
    await expect(guest.getByRole("row").filter({ hasText: "Bea Solano" }).first()).toBeVisible();

    // Her role falls to the crew's: the desk is closed to her, the sheets are not.
    await page.goto(`${base}/plans/isla-orvena/people`);
    await page.getByLabel("Role of Bea Solano", { exact: true }).selectOption("crew");
    await page.getByRole("button", { name: "Keep the role of Bea Solano" }).click();
    await expect(page.getByText("Bea Solano is crew from now on.")).toBeVisible();
    await guest.goto(`${base}/plans/isla-orvena/survey`);
    await expect(guest.getByText("Your role does not allow this.")).toBeVisible();
    await giveJob(base, await signInAs(base, "ana"), "bea");
    await guest.goto(base);
    await guest.getByRole("link", { name: /Isla Orvena/ }).click();
    await expect(guest.locator("[data-crew-link]")).toHaveCount(1);
    await guest.locator('[data-crew-link="link-sub-12"]').getByRole("link", { name: "Sheet" }).click();
    await expect(guest.getByText("Before anyone climbs").first()).toBeVisible();

    // The keeper takes the account away: what is signed in is out at once.
    await page.goto(`${base}/people`);
    await expectAccessible(page, "people");
    await page.getByRole("button", { name: "Take the account of Bea Solano away" }).click();
    await expect(page.locator('[data-account="bea"]')).toHaveCount(0);
    await guest.goto(`${base}/plans/isla-orvena/crew`);
    await expect(guest.getByRole("heading", { name: "Sign in" })).toBeVisible();
    await other.close();
  });
});

test("a passkey opens the account without the password, and signing out everywhere closes it", async ({
  page,
  context,
}) => {
  await withOpenServer(async ({ base }) => {
    const device = await context.newCDPSession(page);
    await device.send("WebAuthn.enable");
    await device.send("WebAuthn.addVirtualAuthenticator", {
      options: {
        ...{ protocol: "ctap2", transport: "internal", hasResidentKey: true, hasUserVerification: true },
        ...{ isUserVerified: true, automaticPresenceSimulation: true },
      },
    });
    await page.goto(`${base}/sign-in?to=/account`);
    await page.getByLabel("Login").fill("ana");
    await page.getByLabel("Password").fill(PASSWORD);
    await page.getByRole("button", { name: "Sign in", exact: true }).click();
    await expectAccessible(page, "account");
    // Whoever finds the page open adds none: the password is asked for.
    await page.getByLabel("Present password, for a new passkey").fill("not her password");
    await page.getByRole("button", { name: "Add a passkey" }).click();
    await expect(page.getByRole("alert")).toHaveText("The present password is another.");
    await page.getByLabel("Present password, for a new passkey").fill(PASSWORD);
    await page.getByRole("button", { name: "Add a passkey" }).click();
    await expect(page.getByText(/^1 passkey/)).toBeVisible();
    await page.getByRole("button", { name: "Sign out everywhere", exact: true }).click();
    await expect(page.getByRole("heading", { name: "Sign in" })).toBeVisible();
    await page.goto(`${base}/sign-in?to=/account`);
    await page.getByRole("button", { name: "Use a passkey" }).click();
    await expect(page.getByText("Signed in as ana")).toBeVisible();
  });
});
