import { plainIssue } from "#core/plan";
import type { z } from "zod";
import { decodeText, readJson } from "../text";
import { MOST_ERRORS, type KitError, type ReadKit } from "./error";

/** Reads a JSON file that holds a list of one kind of sheet under `list`, or names each field that cannot be taken. */
export function readListJson<T extends { id: string }>(
  bytes: Uint8Array,
  list: string,
  schema: z.ZodType<Record<string, unknown>>,
): ReadKit<T[]> {
  const whole = (value: string, reason: string): { item: null; errors: KitError[] } => ({
    item: null,
    errors: [{ row: 0, field: "file", value: value.slice(0, 80), reason }],
  });
  const { value: raw, problem } = readJson(decodeText(bytes).text.replace(/^\uFEFF/, ""));
  if (problem) return whole("", problem);
  const parsed = schema.safeParse(raw);
  if (parsed.success) {
    const items = parsed.data[list] as T[];
    const ids = items.map(({ id }) => id);
    const double = ids.find((id, i) => ids.indexOf(id) !== i);
    return double === undefined
      ? { item: items, errors: [] }
      : whole(double, "stands twice; each needs an id of its own");
  }
  const errors = parsed.error.issues.slice(0, MOST_ERRORS).map((issue): KitError => {
    const [first, index, ...field] = issue.path;
    const value = issue.path.reduce<unknown>(
      (at, key) => (at !== null && typeof at === "object" ? (at as Record<PropertyKey, unknown>)[key] : undefined),
      raw,
    );
    return {
      row: first === list && typeof index === "number" ? index + 1 : 0,
      field: first === list && field.length > 0 ? field.join(".") : issue.path.join(".") || "file",
      value: (JSON.stringify(value) ?? "nothing").slice(0, 80),
      reason: plainIssue(issue),
    };
  });
  return { item: null, errors };
}
