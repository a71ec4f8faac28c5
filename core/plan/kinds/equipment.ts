import { z } from "zod";
import { antennaModelSchema } from "../../antenna";
import { radioModelSchema } from "../../radio";
import { partSchema } from "../part";
import { procedureSchema } from "../procedure";
import { field, keys, type KindDeclaration } from "./field";

const SHEETS = { antenna: antennaModelSchema, radio: radioModelSchema, part: partSchema, procedure: procedureSchema };

/** A sheet of the library: a model, a part or a procedure, by what it is. */
export const equipmentSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("antenna"), ...keys, body: SHEETS.antenna }),
  z.object({ kind: z.literal("radio"), ...keys, body: SHEETS.radio }),
  z.object({ kind: z.literal("part"), ...keys, body: SHEETS.part }),
  z.object({ kind: z.literal("procedure"), ...keys, body: SHEETS.procedure }),
]);
export type Equipment = z.infer<typeof equipmentSchema>;
export const equipment: KindDeclaration<typeof equipmentSchema> = {
  schema: equipmentSchema,
  shape: {
    planId: keys.planId,
    id: keys.id,
    kind: field(z.enum(["antenna", "radio", "part", "procedure"]), { label: "Kind", setBy: "tejado" }),
    body: field(z.record(z.string(), z.unknown()), { label: "Data sheet", short: "sheet" }),
  },
  one: "model of the library",
  many: "models of the library",
};
