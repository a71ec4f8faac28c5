/** Browsers and systems by the words that they call themselves; the first that fits, for each names those before it too. */
const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg\//, "Edge"],
  [/Firefox\//, "Firefox"],
  [/Chrome\/|CriOS/, "Chrome"],
  [/Safari\//, "Safari"],
];
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/Android/, "Android"],
  [/iPhone|iPad/, "iOS"],
  [/Windows/, "Windows"],
  [/Mac OS X/, "macOS"],
  [/Linux/, "Linux"],
];

/** A browser as a person calls it: "Firefox on Android". */
export function browserWords(userAgent: string): string {
  const named = (list: typeof BROWSERS) => list.find(([pattern]) => pattern.test(userAgent))?.[1];
  return `${named(BROWSERS) ?? "another program"}${named(SYSTEMS) ? ` on ${named(SYSTEMS)}` : ""}`;
}
