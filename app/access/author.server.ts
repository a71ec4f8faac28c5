import { whoAsks } from "#accounts";
import { BROWSER_COOKIE, readPreferences } from "../shared/preferences";

const NAMELESS = "planner";

/** The name under which a change goes into the logbook: the account's, or on this machine alone the one that the browser was given. */
export const signature = (request: Request): string => whoAsks()?.name ?? (readPreferences(request).name || NAMELESS);

/**
 * Who makes a change, and whose undo it is: an account, or on this machine alone a person by name wherever they sit, else the browser. What was
 * kept before browsers were told apart belongs to every nameless one.
 */
export function authorOf(request: Request): { who: string; authors: [string, ...string[]] } {
  const account = whoAsks();
  if (account) return { who: account.name, authors: [`account:${account.id}`] };
  const { name } = readPreferences(request);
  if (name) return { who: name, authors: [`name:${name}`] };
  const cookies = request.headers.get("cookie") ?? "";
  const browser = new RegExp(`(?:^|;\\s*)${BROWSER_COOKIE}=([\\w-]{1,64})`).exec(cookies)?.[1];
  const before = `name:${NAMELESS}`;
  return { who: NAMELESS, authors: browser ? [`browser:${browser}`, before] : [before] };
}
