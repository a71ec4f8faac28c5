import { z } from "zod";
import { radioModelSchema, type RadioModel } from "#core/radio";
import { decodeText } from "../text";
import { MOST_ERRORS, type KitError, type ReadKit } from "./error";

/** Names the file's kind and edition, so that a reader knows what it has. */
export const RADIO_FILE_KIND = "tejado-radios-1";
const MOST_RADIOS = 500;

const fileSchema = z.object({
  kind: z.literal(RADIO_FILE_KIND),
  radios: z.array(radioModelSchema).min(1).max(MOST_RADIOS),
});

/** Radios as a JSON file; `radioFileSchema` describes it. */
export function writeRadioJson(radios: readonly RadioModel[]): string {
  return `${JSON.stringify({ kind: RADIO_FILE_KIND, radios }, null, 2)}\n`;
}

/** The JSON schema of a file of radios (draft 2020-12), as it is published at /schemas/radios.json. */
export function radioFileSchema(): object {
  return z.toJSONSchema(fileSchema, { io: "input" });
}

/** Reads a file of radios, or names each field that cannot be taken. */
export function readRadioJson(bytes: Uint8Array): ReadKit<RadioModel[]> {
  const whole = (value: string, reason: string): { item: null; errors: KitError[] } => ({
    item: null,
    errors: [{ row: 0, field: "file", value: value.slice(0, 80), reason }],
  });
  let raw: unknown;
  try {
    raw = JSON.parse(decodeText(bytes).text.replace(/^\uFEFF/, ""));
  } catch (error) {
    return whole("", `is no JSON: ${(error as Error).message}`);
  }
  const parsed = fileSchema.safeParse(raw);
  if (parsed.success) {
    const ids = parsed.data.radios.map(({ id }) => id);
    const double = ids.find((id, i) => ids.indexOf(id) !== i);
    return double === undefined
      ? { item: parsed.data.radios, errors: [] }
      : whole(double, "stands twice; every radio needs an id of its own");
  }
  const errors = parsed.error.issues.slice(0, MOST_ERRORS).map(({ path, message }): KitError => {
    const [list, index, ...field] = path;
    const value = path.reduce<unknown>(
      (at, key) => (at !== null && typeof at === "object" ? (at as Record<PropertyKey, unknown>)[key] : undefined),
      raw,
    );
    return {
      row: list === "radios" && typeof index === "number" ? index + 1 : 0,
      field: list === "radios" && field.length > 0 ? field.join(".") : path.join(".") || "file",
      value: (JSON.stringify(value) ?? "nothing").slice(0, 80),
      reason: message,
    };
  });
  return { item: null, errors };
}
