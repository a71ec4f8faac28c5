import { z } from "zod";
import { radioModelSchema, type RadioModel } from "#core/radio";
import type { ReadKit } from "./error";
import { readListJson } from "./listJson";

/** Names the file's kind and edition, so that a reader knows what it has. */
const RADIO_FILE_KIND = "tejado-radios-1";
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
export const readRadioJson = (bytes: Uint8Array): ReadKit<RadioModel[]> => readListJson(bytes, "radios", fileSchema);
