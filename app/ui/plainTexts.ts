/**
 * A text of which no markup can be made, whoever writes it into a page: the package that draws charts writes some texts as markup and
 * others as they are, so signs are exchanged for look-alikes instead of being escaped.
 */
export const plainText = (text: string): string =>
  text
    .replace(/</g, "‹")
    .replace(/>/g, "›")
    .replace(/"/g, "”")
    .replace(/&(?=#?\w+;)/g, "＆");

/** The same value with every text in it plain, those that its functions give too. What is made by a class is left as it is. */
export function withPlainTexts<Value>(value: Value): Value {
  if (typeof value === "string") return plainText(value) as Value;
  if (typeof value === "function")
    return ((...given: unknown[]) => withPlainTexts((value as (...given: unknown[]) => unknown)(...given))) as Value;
  if (Array.isArray(value)) return value.map((one: unknown) => withPlainTexts(one)) as Value;
  if (value === null || typeof value !== "object" || Object.getPrototypeOf(value) !== Object.prototype) return value;
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, withPlainTexts(one)])) as Value;
}
