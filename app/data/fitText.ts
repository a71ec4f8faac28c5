/** Where in some value a text stands that no database keeps: one with a NUL, or with half of a pair of surrogates. Null where there is none. */
export function unfitTextIn(value: unknown): string | null {
  // By hand: what is nested a million deep must not end the stack.
  const waiting: { value: unknown; path: string }[] = [{ value, path: "" }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const { value: at, path } = next;
    if (typeof at === "string" && !isFit(at)) return path || "the text";
    if (at === null || typeof at !== "object") continue;
    for (const [key, inner] of Object.entries(at)) {
      if (!isFit(key)) return path || "a name";
      waiting.push({ value: inner, path: path ? `${path}.${key}` : key });
    }
  }
  return null;
}

const isFit = (text: string): boolean => !text.includes("\0") && text.isWellFormed();

/** What is said of such a text. */
export const UNFIT = "holds a sign that cannot be kept: a NUL, or half of a character";
