import { rmSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import {
  acceptInvitation,
  invite,
  makeAccount,
  opens,
  passwordProblem,
  presentPasswordProblem,
  signIn,
  takeAs,
  tokenHashOf,
} from "#accounts";
import { valley } from "#core/testing";
import {
  createPlan,
  dropAccount,
  dropInvitation,
  dropSessions,
  hasAccounts,
  invitationOf,
  listInvitations,
  listMembers,
  listSessions,
  openStore,
  roleIn,
  sessionAccount,
  setRole,
  signedBy,
  type Store,
} from "#store";
import { begunDirectory } from "../store/testing";
import { knownBrowser, knownMark } from "./knownBrowser";
import { countedAddress, tryToSignIn } from "./limits";

const PASSWORD = "wind over the ridge";
const ASKER = { address: "10.0.0.7", browser: "a browser" };
const directory = await begunDirectory("accounts");
let store: Store;
beforeAll(async () => {
  store = await openStore(directory);
  await createPlan(store.db, valley().rows, signedBy("test"), "Began");
});
afterAll(async () => {
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});
const made = async (login: string, isKeeper = false) => {
  const one = await makeAccount(store.db, { login, name: login.toUpperCase(), password: PASSWORD }, isKeeper);
  if ("problems" in one) throw new Error(JSON.stringify(one.problems));
  return one.account;
};

test("passwords are long, do not hold the login, and are no single letter; a hash opens by its own password alone", async () => {
  expect(passwordProblem("elevenchars", "ana")).toBe("must have 12 characters or more");
  expect(passwordProblem("x".repeat(201), "ana")).toBe("must have 200 characters or fewer");
  expect(passwordProblem("ANA on the ridge", "ana")).toBe("must not hold the login");
  expect(passwordProblem("aaaaaabbbbbbcccc", "x")).toBe("must have 5 different characters or more");
  expect(passwordProblem(PASSWORD, "ana")).toBeNull();
  expect(await opens(PASSWORD, null)).toBe(false);
  expect(await opens("nobody has this password", null)).toBe(false);
});

describe("accounts", () => {
  test("are opened by login in any letters, and by the right password", async () => {
    expect(await hasAccounts(store.db)).toBe(false);
    const ana = await made("ana", true);
    expect(await hasAccounts(store.db)).toBe(true);
    const wrong = await signIn(store.db, "ana", "another password", ASKER);
    const unknown = await signIn(store.db, "nobody", PASSWORD, ASKER);
    expect(wrong).toEqual(unknown);
    expect(wrong.token).toBeNull();
    const signed = await signIn(store.db, " Ana ", PASSWORD, ASKER);
    expect(signed).toMatchObject({ account: { ...ana } });
    const token = signed.token!;
    expect(await sessionAccount(store.db, tokenHashOf(token))).toEqual(ana);
    expect(await sessionAccount(store.db, token)).toBeNull();
    expect(await listSessions(store.db, ana.id)).toEqual([{ browser: "a browser", seenAt: expect.any(Date) }]);
    await dropSessions(store.db, ana.id);
    expect(await sessionAccount(store.db, tokenHashOf(token))).toBeNull();
  });

  test("a session ends when nobody comes back for a month, and after half a year whatever happens", async () => {
    const bea = await made("bea");
    const { token } = (await signIn(store.db, "bea", PASSWORD, ASKER)) as { token: string };
    const hash = tokenHashOf(token);
    const aged = (column: string, days: number) =>
      store.db.query(`UPDATE sessions SET ${column} = now() - interval '${days} days' WHERE token_hash = $1`, [hash]);
    await aged("seen_at", 29);
    expect(await sessionAccount(store.db, hash)).toEqual(bea);
    await aged("seen_at", 31);
    expect(await sessionAccount(store.db, hash)).toBeNull();
    await aged("seen_at", 0);
    await aged("created_at", 181);
    expect(await sessionAccount(store.db, hash)).toBeNull();
  });

  test("wrong tries are counted before they are checked: many at once pass no limit", async () => {
    await made("carla");
    const tries = Array.from({ length: 40 }, () => signIn(store.db, "carla", "a guess of many", ASKER));
    const problems = (await Promise.all(tries)).map((tried) => (tried.token === null ? tried.problem : ""));
    expect(problems.filter((problem) => problem.includes("do not open"))).toHaveLength(8);
    expect(problems.filter((problem) => problem.includes("Too many tries"))).toHaveLength(32);
  });

  test("who guesses shuts out himself, neither his victim elsewhere nor a browser that the account knows", async () => {
    await made("dina");
    const from = (address: string, knownMarks: string[] = []) => ({ ...ASKER, address, knownMarks });
    const first = await signIn(store.db, "dina", PASSWORD, from("10.0.1.1"));
    const mark = first.token === null ? null : first.mark;
    expect(mark).toMatch(/^[\w-]{20,30}\.[\w-]+$/);
    for (let i = 0; i < 9; i++) await signIn(store.db, "dina", "a guess of many", from("10.0.1.2"));
    expect(await signIn(store.db, "dina", PASSWORD, from("10.0.1.2"))).toEqual({
      token: null,
      problem: expect.stringContaining("Too many tries"),
    });
    expect((await signIn(store.db, "dina", PASSWORD, from("10.0.1.3"))).token).not.toBeNull();
    // From the guesser's own address: the browser is known, and gets no second mark.
    expect(await signIn(store.db, "dina", PASSWORD, from("10.0.1.2", ["x", mark!]))).toMatchObject({ mark: null });
    // The mark of one account is worth nothing for another.
    await made("elsa");
    for (let i = 0; i < 8; i++) await signIn(store.db, "elsa", "a guess of many", from("10.0.1.4", [mark!]));
    expect((await signIn(store.db, "elsa", PASSWORD, from("10.0.1.4", [mark!]))).token).toBeNull();
    // A known browser has a limit of its own.
    for (let i = 0; i < 8; i++) await signIn(store.db, "dina", "a guess of many", from("10.0.1.5", [mark!]));
    expect((await signIn(store.db, "dina", PASSWORD, from("10.0.1.5", [mark!]))).token).toBeNull();
  });

  test("one address is stopped after 60 logins, one login after 100 addresses", async () => {
    for (let i = 0; i < 60; i++) expect(await tryToSignIn(`login-${i}`, "10.0.2.1", null)).not.toBeNull();
    expect(await tryToSignIn("login-60", "10.0.2.1", null)).toBeNull();
    for (let i = 0; i < 100; i++) expect(await tryToSignIn("one", `10.1.${i}.1`, null)).not.toBeNull();
    expect(await tryToSignIn("one", "10.2.0.1", null)).toBeNull();
    // What was right counts for nothing.
    for (let i = 0; i < 120; i++) await (await tryToSignIn("often", "10.0.2.2", null))!.right();
  });

  test("an address of IPv6 counts by the half that one household has", () => {
    expect(countedAddress("2001:db8:0:7::1")).toBe("2001:db8:0:7");
    expect(countedAddress("2001:db8::7:1:2:3:4")).toBe("2001:db8:0:7");
    expect(countedAddress("2001:0db8:0000:0007:ffff:1:2:3")).toBe("2001:db8:0:7");
    expect([countedAddress("::1"), countedAddress("::ffff:10.0.0.7"), countedAddress("10.0.0.7")]).toEqual([
      "0:0:0:0",
      "10.0.0.7",
      "10.0.0.7",
    ]);
  });

  test("a signed-in account has eight tries at its present password", async () => {
    const flor = await made("flor");
    expect(await presentPasswordProblem(store.db, flor, PASSWORD)).toBeNull();
    for (let i = 0; i < 8; i++)
      expect(await presentPasswordProblem(store.db, flor, "a guess of many")).toBe("The present password is another.");
    expect(await presentPasswordProblem(store.db, flor, PASSWORD)).toContain("Too many tries");
  });

  test("a changed password forgets the browsers that were known", () => {
    const mark = knownMark({ id: "a", passwordHash: "one" }, "a-browser-of-twenty-two")!;
    expect(knownBrowser({ id: "a", passwordHash: "one" }, mark)).toBe("a a-browser-of-twenty-two");
    expect(knownBrowser({ id: "a", passwordHash: "two" }, mark)).toBeNull();
    expect(knownBrowser({ id: "b", passwordHash: "one" }, mark)).toBeNull();
    expect(knownBrowser({ id: "a", passwordHash: null }, mark)).toBeNull();
    expect(knownMark({ id: "a", passwordHash: null })).toBeNull();
  });
});

describe("invitations", () => {
  const given = { planId: "valley", role: "planner", isKeeper: false } as const;

  test("make an account with its role once; one that fails is not spent", async () => {
    const token = await invite(store.db, given, null);
    expect(await invitationOf(store.db, tokenHashOf(token))).toEqual({ ...given, madeBy: "The keeper" });
    const bad = await acceptInvitation(store.db, token, { login: "d", name: " ", password: "short" });
    expect(bad).toEqual({
      problems: { login: expect.any(String), name: "must not be empty", password: expect.any(String) },
    });
    const taken = await acceptInvitation(store.db, token, { login: "bea", name: "Dora", password: PASSWORD });
    expect(taken).toEqual({ problems: { login: "is taken; choose another" } });
    const dora = await acceptInvitation(store.db, token, { login: "dora", name: "Dora", password: PASSWORD });
    if ("problems" in dora) throw new Error("the invitation was not taken");
    expect(await roleIn(store.db, "valley", dora.account.id)).toBe("planner");
    const again = await acceptInvitation(store.db, token, { login: "eva", name: "Eva", password: PASSWORD });
    expect(again).toEqual({ problems: { invitation: expect.stringContaining("taken already") } });
  });

  test("end when their author may no longer invite, and can be listed and withdrawn", async () => {
    const [gil, keeper] = [await made("gil"), await made("hanna", true)];
    const set = (role: "owner" | "planner") => store.db.transaction((tx) => setRole(tx, "valley", gil.id, role));
    const stands = async (token: string) => (await invitationOf(store.db, tokenHashOf(token))) !== null;
    await store.db.transaction((tx) => setRole(tx, "valley", keeper.id, "owner"));
    await set("owner");
    const [byOwner, byKeeper] = [await invite(store.db, given, gil), await invite(store.db, given, keeper)];
    const toKeep = await invite(store.db, { planId: null, role: null, isKeeper: true }, keeper);
    expect([await stands(byOwner), await stands(byKeeper), await stands(toKeep)]).toEqual([true, true, true]);
    // An owner of a plan makes no keepers and no accounts.
    const beyond = await invite(store.db, { planId: null, role: null, isKeeper: true }, gil);
    expect(await stands(beyond)).toBe(false);
    await set("planner");
    expect([await stands(byOwner), await stands(byKeeper)]).toEqual([false, true]);
    await set("owner");
    const listed = await listInvitations(store.db, "valley");
    expect(listed.map(({ madeBy, role }) => [madeBy, role]).sort()).toEqual([
      ["GIL", "planner"],
      ["HANNA", "planner"],
    ]);
    expect((await listInvitations(store.db, null)).map(({ isKeeper }) => isKeeper)).toEqual([true]);
    const { id } = listed.find(({ madeBy }) => madeBy === "GIL")!;
    await dropInvitation(store.db, null, id);
    expect(await stands(byOwner)).toBe(true);
    await dropInvitation(store.db, "valley", id);
    expect(await stands(byOwner)).toBe(false);
    const last = await invite(store.db, given, gil);
    await dropAccount(store.db, gil.id);
    expect(await stands(last)).toBe(false);
  });

  test("can be accepted by an existing account, and stay open when they would add nothing", async () => {
    const [ivo, keeper] = [await made("ivo"), await made("jana", true)];
    const toKeep = await invite(store.db, { planId: null, role: null, isKeeper: true }, keeper);
    expect(await takeAs(store.db, toKeep, ivo)).toEqual({ planId: null });
    expect((await signIn(store.db, "ivo", PASSWORD, ASKER)) as object).toMatchObject({ account: { isKeeper: true } });
    const planner = await invite(store.db, given, keeper);
    expect(await takeAs(store.db, planner, ivo)).toEqual({ planId: "valley" });
    const viewer = await invite(store.db, { ...given, role: "viewer" }, keeper);
    expect(await takeAs(store.db, viewer, ivo)).toEqual({ problem: expect.stringContaining("already") });
    expect(await roleIn(store.db, "valley", ivo.id)).toBe("planner");
    expect(await invitationOf(store.db, tokenHashOf(viewer))).not.toBeNull();
    expect(await takeAs(store.db, planner, ivo)).toEqual({ problem: expect.stringContaining("taken already") });
  });

  test("are over after a week", async () => {
    const token = await invite(store.db, given, null);
    await store.db.query("UPDATE invitations SET made_at = now() - interval '8 days' WHERE token_hash = $1", [
      tokenHashOf(token),
    ]);
    expect(await invitationOf(store.db, tokenHashOf(token))).toBeNull();
  });
});

test("whoever begins a plan owns it; a plan keeps an owner; an account that goes takes its roles along", async () => {
  const { rows } = valley();
  const eva = await made("eva");
  await createPlan(
    store.db,
    { ...rows, plan: { ...rows.plan, id: "hers" }, ...emptied },
    { who: "EVA", authors: [`account:${eva.id}`] },
    "Began",
  );
  expect(await listMembers(store.db, "hers")).toEqual([{ ...eva, role: "owner" }]);
  const set = (id: string, role: "owner" | "viewer" | null) =>
    store.db.transaction((tx) => setRole(tx, "hers", id, role));
  expect([await set(eva.id, "viewer"), await set(eva.id, null)]).toEqual([false, false]);
  const fay = await made("fay");
  expect(await set(fay.id, "owner")).toBe(true);
  expect(await set(eva.id, "viewer")).toBe(true);
  expect(await roleIn(store.db, "hers", eva.id)).toBe("viewer");
  await dropAccount(store.db, eva.id);
  expect((await listMembers(store.db, "hers")).map(({ login }) => login)).toEqual(["fay"]);
});
const emptied = {
  ...{ sites: [], subscribers: [], carriers: [], radios: [], links: [], measurements: [], equipment: [] },
  ...{ layers: [], areas: [], overlays: [], scans: [], outsiders: [], photos: [] },
};
