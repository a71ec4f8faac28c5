import {
  areaSchema,
  equipmentSchema,
  layerSchema,
  linkSchema,
  measurementSchema,
  overlaySchema,
  photoSchema,
  planSchema,
  radioSchema,
  scanSchema,
  siteSchema,
  subscriberSchema,
  type Edit,
} from "#core/plan";
import { z } from "zod";

const id = z.string().min(1).max(64);
const editsSchema = z
  .array(
    z.discriminatedUnion("kind", [
      z.object({ kind: z.literal("plans"), id, row: planSchema }),
      z.object({ kind: z.literal("sites"), id, row: siteSchema.nullable() }),
      z.object({ kind: z.literal("subscribers"), id, row: subscriberSchema.nullable() }),
      z.object({ kind: z.literal("radios"), id, row: radioSchema.nullable() }),
      z.object({ kind: z.literal("links"), id, row: linkSchema.nullable() }),
      z.object({ kind: z.literal("measurements"), id, row: measurementSchema.nullable() }),
      z.object({ kind: z.literal("equipment"), id, row: equipmentSchema.nullable() }),
      z.object({ kind: z.literal("layers"), id, row: layerSchema.nullable() }),
      z.object({ kind: z.literal("areas"), id, row: areaSchema.nullable() }),
      z.object({ kind: z.literal("overlays"), id, row: overlaySchema.nullable() }),
      z.object({ kind: z.literal("scans"), id, row: scanSchema.nullable() }),
      z.object({ kind: z.literal("photos"), id, row: photoSchema.nullable() }),
    ]),
  )
  .min(1, "the change is empty");

/** Edits of `planId` as a browser sent them, or what is wrong with the first that cannot be taken. */
export function parseEdits(text: string, planId: string): { edits: Edit[] } | { error: string } {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return { error: "Not kept: the change that arrived is not JSON." };
  }
  const parsed = editsSchema.safeParse(raw);
  if (!parsed.success) {
    const { path, message } = parsed.error.issues[0]!;
    const [index, ...field] = path;
    const at = typeof index === "number" ? (raw as { kind?: unknown; id?: unknown }[])[index] : undefined;
    const where = at
      ? `${String(at.kind)} ${String(at.id)}, ${field.filter((part) => part !== "row").join(".")}: `
      : "";
    return { error: `Not kept: ${where}${message}.` };
  }
  for (const { kind, id: editId, row } of parsed.data) {
    const owner = row && ("planId" in row ? row.planId : row.id);
    if (row && (row.id !== editId || owner !== planId))
      return { error: `Not kept: ${kind} ${editId} carries the row of ${row.id} in plan ${owner}.` };
  }
  return { edits: parsed.data as Edit[] };
}
