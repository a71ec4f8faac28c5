import { createHmac, randomBytes, timingSafeEqual } from "node:crypto";

/** What is kept of an account that can open it. */
interface Opened {
  id: string;
  passwordHash: string | null;
}

const SEPARATOR = ".";
const NAME = /^[\w-]{20,30}$/;

const markOf = ({ id, passwordHash }: Opened, browser: string): Buffer =>
  createHmac("sha256", passwordHash ?? "")
    .update(`${id}\n${browser}`)
    .digest();

/** What a browser gets when an account was opened in it: it is known there from then on, until the password changes. */
export function knownMark(account: Opened, browser = randomBytes(18).toString("base64url")): string | null {
  return account.passwordHash === null
    ? null
    : `${browser}${SEPARATOR}${markOf(account, browser).toString("base64url")}`;
}

/** The name of the browser that shows a mark of this account; null for one that does not. */
export function knownBrowser(account: Opened | null, mark: string): string | null {
  if (!account || account.passwordHash === null) return null;
  const [browser = "", shown = ""] = mark.split(SEPARATOR);
  if (!NAME.test(browser)) return null;
  const [own, its] = [markOf(account, browser), Buffer.from(shown, "base64url")];
  return own.length === its.length && timingSafeEqual(own, its) ? `${account.id} ${browser}` : null;
}
