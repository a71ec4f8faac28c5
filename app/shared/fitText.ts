/** A list or an object that is still to be looked at, and where it stands. */
interface Waiting {
  value: object;
  key: string | number;
  within: Waiting | null;
}

/** Where in some value a text stands that no database keeps: one with a NUL, or with half of a pair of surrogates. Null where there is none. */
export function unfitTextIn(value: unknown): string | null {
  if (typeof value === "string") return isFit(value) ? null : "the text";
  if (value === null || typeof value !== "object") return null;
  // By hand: what is nested a million deep must not end the stack. Only lists and objects wait; the way to one is put together for a refusal alone.
  const waiting: Waiting[] = [{ value, key: "", within: null }];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const within: Waiting = next;
    let unfit: string | null = null;
    const look = (inner: unknown, key: string | number): boolean => {
      if (typeof inner === "string") {
        if (!isFit(inner)) unfit = pathOf(within, key);
      } else if (inner !== null && typeof inner === "object") waiting.push({ value: inner, key, within });
      return unfit === null;
    };
    const { value: at } = within;
    if (Array.isArray(at)) {
      for (let i = 0; i < at.length; i++) if (!look(at[i], i)) return unfit;
    } else
      for (const key in at) {
        if (!isFit(key)) return pathOf(within, "") || "a name";
        if (!look((at as Record<string, unknown>)[key], key)) return unfit;
      }
  }
  return null;
}

/** The way to a value, by names and numbers. */
function pathOf(within: Waiting, key: string | number): string {
  const keys = [key];
  for (let at: Waiting | null = within; at; at = at.within) keys.push(at.key);
  return keys
    .reverse()
    .filter((one) => one !== "")
    .join(".");
}

const isFit = (text: string): boolean => !text.includes("\0") && text.isWellFormed();

/** What is said of such a text. */
export const UNFIT = "holds a sign that cannot be kept: a NUL, or half of a character";
