/**
 * A text of which no markup can be made, whoever writes it into a page: the package that draws charts writes some texts as markup and
 * others as they are, so signs are exchanged for look-alikes instead of being escaped.
 */
const plainText = (text: string): string =>
  text
    .replace(/</g, "‹")
    .replace(/>/g, "›")
    .replace(/"/g, "”")
    .replace(/&(?=#?\w+;)/g, "＆");

/** Numbers alone, or a list or point of them: by far the most of what a chart gets, and nothing to look for. */
const isFigures = (value: unknown): boolean =>
  typeof value === "object" && value !== null
    ? Object.values(value).every((one) => typeof one === "number" || one === null)
    : typeof value === "number" || value === null;

/** The same value with every text in it plain, those that its functions give too. What is made by a class is left as it is. */
export function withPlainTexts<Value>(value: Value): Value {
  if (isFigures(value)) return value;
  if (typeof value === "string") return plainText(value) as Value;
  if (typeof value === "function")
    return ((...given: unknown[]) => withPlainTexts((value as (...given: unknown[]) => unknown)(...given))) as Value;
  if (Array.isArray(value)) return value.map((one: unknown) => withPlainTexts(one)) as Value;
  if (value === null || typeof value !== "object" || Object.getPrototypeOf(value) !== Object.prototype) return value;
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, withPlainTexts(one)])) as Value;
}
