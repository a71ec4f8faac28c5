import { z } from "zod";

/** Whether an address names tiles by zoom, column and row on a server of the web. */
export function isTileUrl(url: string): boolean {
  const sample = url.replace(/\{[zxy]\}/g, "1");
  return ["{z}", "{x}", "{y}"].every((part) => url.includes(part)) && /^https?:/.test(sample) && URL.canParse(sample);
}

/** How one person reads Tejado, and by what name their changes are signed. It stands in a cookie of their browser. */
export const preferencesSchema = z.object({
  theme: z.enum(["system", "light", "dark"]).catch("system"),
  units: z.enum(["metric", "imperial"]).catch("metric"),
  coordinates: z.enum(["decimal", "dms", "dm"]).catch("decimal"),
  name: z.string().trim().max(80).catch(""),
  /** The user's own map tiles; empty, as it is until somebody says otherwise, asks the network for nothing. */
  tileUrl: z
    .string()
    .trim()
    .max(400)
    .refine((url) => url === "" || isTileUrl(url), "must be an http or https address with {z}, {x} and {y}")
    .catch(""),
  tileAttribution: z.string().trim().max(200).catch(""),
});
export type Preferences = z.infer<typeof preferencesSchema>;

export const DEFAULT_PREFERENCES: Preferences = preferencesSchema.parse({});

const COOKIE = "tejado";
const COOKIE_AGE_S = 400 * 24 * 3600;

/** The preferences of whoever asks; what is missing or broken is the default. */
export function readPreferences(request: Request): Preferences {
  return preferencesIn(request.headers.get("cookie") ?? "");
}

/** The same of a cookie header. */
export function preferencesIn(cookies: string): Preferences {
  const mine = cookies
    .split(";")
    .map((one) => one.trim())
    .find((one) => one.startsWith(`${COOKIE}=`));
  if (!mine) return DEFAULT_PREFERENCES;
  try {
    return preferencesSchema.parse(JSON.parse(decodeURIComponent(mine.slice(COOKIE.length + 1))));
  } catch {
    return DEFAULT_PREFERENCES;
  }
}

export function preferencesCookie(preferences: Preferences): string {
  const value = encodeURIComponent(JSON.stringify(preferences));
  return `${COOKIE}=${value}; Path=/; Max-Age=${COOKIE_AGE_S}; SameSite=Strict; HttpOnly`;
}

/** The cookie that tells one browser from another, for those who have not given their name. */
export const BROWSER_COOKIE = "tejado_browser";
