import { accountByLogin, createSession, type Account, type Queries } from "#store";
import { knownBrowser, knownMark } from "./knownBrowser";
import { tryOwnPassword, tryToSignIn } from "./limits";
import { opens } from "./password";
import { newToken } from "./tokens";

/** Who asks, as far as limits and the list of sessions need it. */
export interface Asker {
  address: string;
  browser: string;
  /** Marks of accounts that were opened in that browser before. */
  knownMarks?: readonly string[];
}

/** `mark` is for the browser to show next time; null where it has one that holds. */
export type SignedIn = { token: string; account: Account; mark: string | null } | { token: null; problem: string };

/** The same words whether the login, the password or both are wrong. */
const WRONG = "This login and password do not open an account.";
const TOO_OFTEN = "Too many tries. Wait a quarter of an hour, then try again.";

/** Logins are told apart without regard to capitals and blanks around them. */
export const plainLogin = (login: string): string => login.trim().toLowerCase();

/** Opens a session by login and password. */
export async function signIn(db: Queries, login: string, password: string, asker: Asker): Promise<SignedIn> {
  const plain = plainLogin(login);
  const found = await accountByLogin(db, plain);
  const marks = (asker.knownMarks ?? []).map((mark) => knownBrowser(found, mark));
  const browser = marks.find((one) => one !== null) ?? null;
  const counted = await tryToSignIn(plain, asker.address, browser);
  if (!counted) return { token: null, problem: TOO_OFTEN };
  if (!(await opens(password, found?.passwordHash ?? null)) || !found) return { token: null, problem: WRONG };
  await counted.right();
  const { id, name, isKeeper } = found;
  const mark = browser === null ? knownMark(found) : null;
  return { token: await openSession(db, id, asker), account: { id, login: plain, name, isKeeper }, mark };
}

/** Checks the password that a signed-in account must confirm. Returns what is wrong, or null when it is right. */
export async function presentPasswordProblem(
  db: Queries,
  { id, login }: Account,
  password: string,
): Promise<string | null> {
  const counted = await tryOwnPassword(id);
  if (!counted) return TOO_OFTEN;
  const found = await accountByLogin(db, login);
  if (!(await opens(password, found?.passwordHash ?? null))) return "The present password is another.";
  await counted.right();
  return null;
}

/** Opens a session for an account that has shown who it is; gives its token. */
export async function openSession(db: Queries, accountId: string, { browser }: Asker): Promise<string> {
  const { token, tokenHash } = newToken();
  await createSession(db, { tokenHash, accountId, browser: browser.slice(0, MOST_BROWSER) });
  return token;
}
const MOST_BROWSER = 200;
