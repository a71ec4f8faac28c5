import { ROW_KINDS, ROW_SCHEMAS, type Patch, type RowKind } from "#core/plan";
import { data } from "react-router";
import { z } from "zod";

const id = z.string().min(1).max(64);
const editOf = (kind: RowKind) => {
  const row: z.ZodType = ROW_SCHEMAS[kind];
  // The plan itself is changed here, never removed.
  return z.object({ kind: z.literal(kind), id, row: kind === "plans" ? row : row.nullable() });
};
const [firstKind, ...otherKinds] = ROW_KINDS;
const editsSchema = z
  .array(z.discriminatedUnion("kind", [editOf(firstKind), ...otherKinds.map(editOf)]))
  .min(1, "the change is empty");

/** Patches of `planId` as a browser sent them, or what is wrong with the first that cannot be taken. */
export function parsePatches(raw: unknown, planId: string): { patches: Patch[] } | { error: string } {
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
  const patches = parsed.data as Patch[];
  for (const { kind, id: editId, row } of patches) {
    const owner = row && ("planId" in row ? row.planId : row.id);
    if (row && (row.id !== editId || owner !== planId))
      return { error: `Not kept: ${kind} ${editId} carries the row of ${row.id} in plan ${owner}.` };
  }
  return { patches };
}

/** The change in hand that came with a question: patches as above, or none. */
export function parseDraft(raw: unknown, planId: string): Patch[] {
  if (Array.isArray(raw) && raw.length === 0) return [];
  const parsed = parsePatches(raw, planId);
  if ("error" in parsed)
    throw data(parsed.error.replace("Not kept", "The change in hand cannot be read"), { status: 400 });
  return parsed.patches;
}
