import type { Asker, PasskeySite } from "#accounts";
import type { RouterContextProvider } from "react-router";
import { accessInContext } from "./context";
import { knownMarks } from "./session";

/** Who asks, for limits and the list of what is signed in. */
export const askerOf = (request: Request, context: Readonly<RouterContextProvider>): Asker => ({
  address: context.get(accessInContext).address,
  browser: request.headers.get("user-agent") ?? "",
  knownMarks: knownMarks(request.headers.get("cookie")),
});

/** This site as the browser sees it: what passkeys are for, and links begin with. */
export function siteOf(request: Request, context: Readonly<RouterContextProvider>): PasskeySite {
  const host = request.headers.get("host") ?? "";
  const scheme = context.get(accessInContext).isSecure ? "https" : "http";
  return { origin: `${scheme}://${host}`, host: host.replace(/:\d+$/, "") };
}
