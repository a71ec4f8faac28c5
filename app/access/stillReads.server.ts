import { tokenHashOf, whoAsks } from "#accounts";
import { roleIn, sessionAccount, type Store } from "#store";
import type { RouterContextProvider } from "react-router";
import { accessInContext } from "./context";
import { decide, RULES } from "./rules";
import { sessionToken } from "./session";

/** Asks again whether whoever opened a stream of a plan may still read it: signed in with the same session, and with a role that does. */
export function stillReads(
  store: Store,
  planId: string,
  pattern: string,
  request: Request,
  context: Readonly<RouterContextProvider>,
): () => Promise<boolean> {
  const { isSecure } = context.get(accessInContext);
  const token = sessionToken(request.headers.get("cookie"), isSecure);
  if (!whoAsks()) return () => Promise.resolve(true);
  return async () => {
    const account = token === null ? null : await sessionAccount(store.db, tokenHashOf(token));
    const role = account && (await roleIn(store.db, planId, account.id));
    return decide(RULES[pattern], false, account && { isKeeper: account.isKeeper, role }) === "yes";
  };
}
