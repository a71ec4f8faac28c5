import { setImmediate as breathe } from "node:timers/promises";
import { fieldOf, isFixed, plainIssue, ROW_KINDS, ROW_SCHEMAS, type Patch } from "#core/plan";
import { data } from "react-router";
import { z } from "zod";

/** Rows that one change may touch: the largest import with room to spare. */
export const MOST_PATCHES = 25_000;

const patchSchema = z.object({
  kind: z.enum(ROW_KINDS, "there is no such kind of thing"),
  id: z.string().min(1).max(64),
  base: z.number().int().min(0).optional(),
  set: z.record(z.string(), z.unknown()).optional(),
  put: z.record(z.string(), z.unknown()).optional(),
  remove: z.literal(true).optional(),
});
type RawPatch = z.infer<typeof patchSchema>;

const patchesSchema = z
  .array(z.unknown(), "the change holds no list of patches")
  .min(1, "the change is empty")
  .max(MOST_PATCHES, `the change touches more than ${MOST_PATCHES} rows`);

/** What is wrong with one field of a patch, or with the patch as a whole where `field` is empty. */
interface Wrong {
  field: string;
  message: string;
}

function wrongSet({ kind, set }: RawPatch): Wrong | null {
  for (const [name, value] of Object.entries(set!)) {
    const schema = fieldOf(kind, name)?.schema;
    if (!schema || isFixed(kind, name)) return { field: name, message: "there is no such field to set" };
    const parsed = schema.safeParse(value);
    if (!parsed.success) return wrongIn(parsed.error, name);
    // What the schema makes of it is what is kept: names without blanks around them.
    set![name] = parsed.data;
  }
  return Object.keys(set!).length === 0 ? { field: "", message: "it sets no field" } : null;
}

function wrongIn({ issues }: z.ZodError, within = ""): Wrong {
  const { path } = issues[0]!;
  return { field: [within, ...path].filter((part) => part !== "").join("."), message: plainIssue(issues[0]!) };
}

function wrongPatch(patch: RawPatch, planId: string): Wrong | null {
  const { kind, id, set, put, remove } = patch;
  if ([set, put, remove].filter((deed) => deed !== undefined).length !== 1)
    return { field: "", message: "it must set fields, put a row or remove one" };
  if (kind === "plans" && (!set || id !== planId))
    return { field: "", message: "of the plan itself only settings are changed" };
  if (set) return wrongSet(patch);
  if (!put) return null;
  const parsed = ROW_SCHEMAS[kind].safeParse(put);
  if (!parsed.success) return wrongIn(parsed.error);
  const row = parsed.data as { id: string; planId: string };
  if (row.id !== id || row.planId !== planId)
    return { field: "", message: `it carries the row of ${row.id} in plan ${row.planId}` };
  patch.put = row;
  return null;
}

/** Patches that are looked at before others get their turn. */
const AT_ONCE = 250;

/** Patches of `planId` as a browser sent them, or what is wrong with the first that cannot be taken. */
export async function parsePatches(raw: unknown, planId: string): Promise<{ patches: Patch[] } | { error: string }> {
  const list = patchesSchema.safeParse(raw);
  if (!list.success) return { error: `Not kept: ${list.error.issues[0]!.message}.` };
  const patches: Patch[] = [];
  for (const [index, one] of list.data.entries()) {
    if (index % AT_ONCE === AT_ONCE - 1) await breathe();
    const parsed = patchSchema.safeParse(one);
    const named = one as { kind?: unknown; id?: unknown } | null;
    const wrong = parsed.success ? wrongPatch(parsed.data, planId) : wrongIn(parsed.error);
    if (wrong) {
      const where = [`${String(named?.kind)} ${String(named?.id)}`, wrong.field].filter((part) => part !== "");
      return { error: `Not kept: ${where.join(", ")}: ${wrong.message}.` };
    }
    patches.push(parsed.data as unknown as Patch);
  }
  return { patches };
}

/** The change in hand that came with a question: patches as above, or none. */
export async function parseDraft(raw: unknown, planId: string): Promise<Patch[]> {
  if (Array.isArray(raw) && raw.length === 0) return [];
  const parsed = await parsePatches(raw, planId);
  if ("error" in parsed)
    throw data(parsed.error.replace("Not kept", "The change in hand cannot be read"), { status: 400 });
  return parsed.patches;
}
