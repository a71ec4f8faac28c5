/** The cookie that holds who is signed in. Over an encrypted way its name binds it to this very host. */
const NAME = "tejado-session";
const cookieName = (isSecure: boolean): string => (isSecure ? `__Host-${NAME}` : NAME);
const AGE_S = 30 * 24 * 3600;

const cookie = (value: string, isSecure: boolean, ageS: number): string =>
  `${cookieName(isSecure)}=${value}; Path=/; Max-Age=${ageS}; HttpOnly; SameSite=Strict${isSecure ? "; Secure" : ""}`;

export const sessionCookie = (token: string, isSecure: boolean): string => cookie(token, isSecure, AGE_S);
export const noSessionCookie = (isSecure: boolean): string => cookie("", isSecure, 0);

/** The token in a cookie header; null where there is none. */
export function sessionToken(cookies: string | null | undefined, isSecure: boolean): string | null {
  const found = new RegExp(`(?:^|;\\s*)${cookieName(isSecure)}=([\\w-]{20,100})(?:;|$)`).exec(cookies ?? "");
  return found?.[1] ?? null;
}

/** The cookie that tells an account that it was opened in this browser before: its owner is not shut out by others' guesses. */
const KNOWN = "tejado-known";
/** Accounts of one browser that are remembered, and for how long. */
const MOST_KNOWN = 4;
const KNOWN_AGE_S = 400 * 24 * 3600;

/** Marks in a cookie header, the newest first. */
export const knownMarks = (cookies: string | null | undefined): string[] =>
  (new RegExp(`(?:^|;\\s*)${KNOWN}=([\\w.~-]{20,400})(?:;|$)`).exec(cookies ?? "")?.[1] ?? "")
    .split("~")
    .filter(Boolean);

/** Remembers one mark more. */
export const knownCookie = (mark: string, known: readonly string[], isSecure: boolean): string =>
  `${KNOWN}=${[mark, ...known].slice(0, MOST_KNOWN).join("~")}; Path=/; Max-Age=${KNOWN_AGE_S}; HttpOnly; SameSite=Strict${isSecure ? "; Secure" : ""}`;
