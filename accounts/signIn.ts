import { accountByLogin, createSession, type Account, type Queries } from "#store";
import { countWrong, forgetWrong, triedTooOften } from "./limits";
import { opens } from "./password";
import { newToken } from "./tokens";

/** Who asks, as far as limits and the list of sessions need it. */
export interface Asker {
  address: string;
  browser: string;
}

export type SignedIn = { token: string; account: Account } | { token: null; problem: string };

/** The same words whether the login, the password or both are wrong. */
const WRONG = "This login and password do not open an account.";
const TOO_OFTEN = "Too many tries. Wait a quarter of an hour, then try again.";

/** Logins are told apart without regard to capitals and blanks around them. */
export const plainLogin = (login: string): string => login.trim().toLowerCase();

/** Opens a session by login and password. */
export async function signIn(db: Queries, login: string, password: string, asker: Asker): Promise<SignedIn> {
  const plain = plainLogin(login);
  if (await triedTooOften(plain, asker.address)) return { token: null, problem: TOO_OFTEN };
  const found = await accountByLogin(db, plain);
  if (!(await opens(password, found?.passwordHash ?? null)) || !found) {
    await countWrong(plain, asker.address);
    return { token: null, problem: WRONG };
  }
  await forgetWrong(plain);
  const { id, name, isKeeper } = found;
  return { token: await openSession(db, id, asker), account: { id, login: plain, name, isKeeper } };
}

/** Opens a session for an account that has shown who it is; gives its token. */
export async function openSession(db: Queries, accountId: string, { browser }: Asker): Promise<string> {
  const { token, tokenHash } = newToken();
  await createSession(db, { tokenHash, accountId, browser: browser.slice(0, MOST_BROWSER) });
  return token;
}
const MOST_BROWSER = 200;
