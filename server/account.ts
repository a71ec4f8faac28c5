import type { NextFunction, Request, RequestHandler, Response } from "express";
import { tokenHashOf } from "#accounts";
import { sessionAccount, type Store } from "#store";
import { sessionToken } from "../app/access/session";

/** Finds who is signed in, for all that answers after it. */
export function account(store: Store, isSecure: boolean): RequestHandler {
  return (request, response, next) => {
    const token = sessionToken(request.headers.cookie, isSecure);
    if (token === null) return next();
    sessionAccount(store.db, tokenHashOf(token))
      .then((found) => {
        response.locals.account = found;
        next();
      })
      .catch(next);
  };
}

/** Lets only those pass who are signed in. */
export function signedIn(_request: Request, response: Response, next: NextFunction): void {
  if (response.locals.account) return next();
  response.status(401).type("text").send("Sign in first.");
}
