import { rmSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { acceptInvitation, invite, makeAccount, opens, passwordProblem, signIn, tokenHashOf } from "#accounts";
import { valley } from "#core/testing";
import {
  createPlan,
  dropAccount,
  dropSessions,
  hasAccounts,
  invitationOf,
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

  test("wrong tries are counted by login and stop even the right password for a while", async () => {
    await made("carla");
    for (let i = 0; i < 8; i++) await signIn(store.db, "carla", "a guess of many", ASKER);
    const stopped = await signIn(store.db, "carla", PASSWORD, { ...ASKER, address: "10.0.0.8" });
    expect(stopped).toEqual({ token: null, problem: expect.stringContaining("Too many tries") });
  });
});

describe("invitations", () => {
  const given = { planId: "valley", role: "planner", isKeeper: false, madeBy: "Ana" } as const;

  test("make an account with its role once; one that fails is not spent", async () => {
    const token = await invite(store.db, given);
    expect(await invitationOf(store.db, tokenHashOf(token))).toEqual(given);
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

  test("are over after a week", async () => {
    const token = await invite(store.db, given);
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
