import { describe, expect, test } from "@jest/globals";
import { browserWords } from "./browserWords";
import { ownPath } from "./ownPath";
import { decide, RULES, type Rule } from "./rules";
import { noSessionCookie, sessionCookie, sessionToken } from "./session";

describe("who may", () => {
  const rule: Rule = { read: ["owner", "viewer"], write: ["owner"] };
  const asker = (role: "owner" | "viewer" | "crew" | null, isKeeper = false) => ({ role, isKeeper });

  test("a role looks and changes as its rule says; others do not learn that a plan is there; a keeper owns all", () => {
    expect(decide(rule, false, asker("viewer"))).toBe("yes");
    expect(decide(rule, true, asker("viewer"))).toBe("no");
    expect(decide(rule, false, asker("crew"))).toBe("no");
    expect(decide(rule, false, asker(null))).toBe("hidden");
    expect(decide(rule, true, asker(null, true))).toBe("yes");
    expect(decide(rule, false, null)).toBe("signIn");
    expect(decide({ read: "keeper", write: "account" }, false, asker("owner"))).toBe("no");
    expect(decide({ read: "keeper", write: "account" }, true, asker(null))).toBe("yes");
    expect(decide({ read: "anyone", write: [] }, false, null)).toBe("yes");
    expect(decide({ read: "anyone", write: [] }, true, asker("owner", true))).toBe("no");
  });

  test("an address without a rule answers nobody", () => {
    expect(decide(undefined, false, asker("owner", true))).toBe("hidden");
    expect(decide(undefined, false, null)).toBe("signIn");
  });

  test("what everybody may see without an account is this, and nothing of any plan", () => {
    const open = Object.entries(RULES).flatMap(([pattern, { read }]) => (read === "anyone" ? [pattern] : []));
    expect(open).toEqual([
      ...["/health", "/preferences", "/sign-in", "/passkeys", "/invitations/:token"],
      ...["/schemas/radios.json", "/schemas/rows.json"],
    ]);
  });
});

test("one goes back to a path of ours only", () => {
  for (const path of ["/", "/plans/a/survey?sel=site:x&view=b", "/plans/a%20b", "/you?from=/plans/a"])
    expect(ownPath(path)).toBe(path);
  for (const path of [
    "//elsewhere.test",
    "/\\elsewhere.test",
    "https://elsewhere.test",
    "/\t/elsewhere.test",
    "",
    null,
  ])
    expect([path, ownPath(path)]).toEqual([path, "/"]);
  for (const path of ["/..//elsewhere.test", "/a/..//elsewhere.test", "/%09/x\n", "plans", {}])
    expect([path, ownPath(path)]).toEqual([path, "/"]);
});

test("a session goes into a cookie that scripts and other sites do not read, and comes back by its own name", () => {
  const token = "t".repeat(43);
  expect(sessionCookie(token, false)).toMatch(/^tejado-session=t+; Path=\/; Max-Age=\d+; HttpOnly; SameSite=Strict$/);
  expect(sessionCookie(token, true)).toMatch(/^__Host-tejado-session=.*; Secure$/);
  expect(sessionToken(`a=b; tejado-session=${token}; c=d`, false)).toBe(token);
  expect(sessionToken(`tejado-session=${token}`, true)).toBeNull();
  expect(sessionToken(`__Host-tejado-session=${token}`, true)).toBe(token);
  expect(sessionToken(`xtejado-session=${token}`, false)).toBeNull();
  expect([sessionToken(null, false), sessionToken("tejado-session=short", false)]).toEqual([null, null]);
  expect(noSessionCookie(false)).toContain("Max-Age=0");
});

test("a browser is called as people call it", () => {
  const chrome = "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/120.0 Safari/537.36";
  expect(browserWords(chrome)).toBe("Chrome on Linux");
  expect(browserWords(`${chrome} Edg/120.0`)).toBe("Edge on Linux");
  expect(browserWords("Mozilla/5.0 (Android 14; Mobile) Gecko/120.0 Firefox/120.0")).toBe("Firefox on Android");
  expect(browserWords("curl/8")).toBe("another program");
});
