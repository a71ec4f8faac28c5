import type { NextFunction, Request, Response } from "express";

/** What this machine calls itself. */
const OWN_NAMES = ["localhost", "127.0.0.1", "[::1]"];
/** Addresses that stand for all of a machine's own, and are nobody's name. */
const ANY = ["0.0.0.0", "::"];

export const isLoopback = (host: string): boolean => host === "127.0.0.1" || host === "::1" || host === "localhost";

/** Names by which browsers may call a Tejado: this machine's own where it is on loopback, the address that it is bound to, and those that were given. */
export function hostNames({ host, names }: { host: string; names: readonly string[] }): string[] {
  const bound = ANY.includes(host) ? [] : [host.includes(":") ? `[${host}]` : host];
  return [...(isLoopback(host) ? OWN_NAMES : []), ...bound, ...names].map((name) => name.toLowerCase());
}

/** Refuses requests for any other host: a page of somebody else's whose name leads here. */
export function knownHost(names: readonly string[]) {
  return (request: Request, response: Response, next: NextFunction): void => {
    const host = request.headers.host ?? "";
    if (names.includes(host.toLowerCase().replace(/:\d+$/, ""))) return next();
    response
      .status(421)
      .type("text")
      .send(`This Tejado does not answer as "${host}". Start it with --name for each name that leads to it.`);
  };
}
