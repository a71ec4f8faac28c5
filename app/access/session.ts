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
