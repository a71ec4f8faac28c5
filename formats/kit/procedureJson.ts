import { procedureSchema, type Procedure } from "#core/plan";
import { z } from "zod";
import type { ReadKit } from "./error";
import { readListJson } from "./listJson";

/** Names the file's kind and edition. */
const PROCEDURE_FILE_KIND = "tejado-procedures-1";
const MOST_PROCEDURES = 200;

const fileSchema = z.object({
  kind: z.literal(PROCEDURE_FILE_KIND),
  procedures: z.array(procedureSchema).min(1).max(MOST_PROCEDURES),
});

/** Procedures as a JSON file, which `readProcedureJson` reads back the same. */
export const writeProcedureJson = (procedures: readonly Procedure[]): string =>
  `${JSON.stringify({ kind: PROCEDURE_FILE_KIND, procedures }, null, 2)}\n`;

/** Reads a file of procedures, or names each field that cannot be taken. */
export const readProcedureJson = (bytes: Uint8Array): ReadKit<Procedure[]> =>
  readListJson(bytes, "procedures", fileSchema);
