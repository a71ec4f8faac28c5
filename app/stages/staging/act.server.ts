import type { World } from "#core/plan";
import { configSheet, sheetContext, STAGING_STEPS, type StagingNote } from "#core/staging";
import { stagingTitle, submit, type JobView } from "#jobs";
import { dropStaging, LostSecret, readStagingNote, secretOf, writeStaging, type Author, type Store } from "#store";
import { z } from "zod";

const radioId = z.string().min(1).max(64);
export const askSchema = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("run"), radioIds: z.array(radioId).max(20_000).nullable() }),
  z.object({
    intent: z.literal("tick"),
    radioId,
    step: z.enum(STAGING_STEPS),
    isDone: z.boolean(),
  }),
  z.object({
    intent: z.literal("serial"),
    radioId,
    serial: z
      .string()
      .trim()
      .max(60, "is longer than 60 letters")
      .regex(/^[\w./-]*$/, "holds a sign that no serial number has"),
  }),
  z.object({ intent: z.literal("forget"), radioId }),
  z.object({ intent: z.literal("secret"), radioId, of: z.enum(["device", "network"]) }),
]);
export type BenchAsk = z.infer<typeof askSchema>;

export interface BenchAnswer {
  ok: boolean;
  message: string;
  job?: JobView;
  secret?: string;
}

const blank = (id: string): StagingNote => ({
  radioId: id,
  practiceRun: null,
  serial: "",
  done: {},
  problem: "",
  found: null,
  foundFirmware: "",
});

/** Does what is asked of a plan's bench. */
export async function actOnStaging(
  store: Store,
  world: World,
  author: Author,
  ask: BenchAsk,
): Promise<BenchAnswer & { status?: number }> {
  const planId = world.plan.id;
  if (ask.intent === "run") {
    const unknown = ask.radioIds?.find((id) => !world.radios.has(id));
    if (unknown !== undefined) return gone(unknown);
    const { radioIds } = ask;
    const job = await submit(store, "staging", planId, stagingTitle(world), { author, radioIds });
    return { ok: true, message: "", job };
  }
  const radio = world.radios.get(ask.radioId);
  if (!radio) return gone(ask.radioId);
  if (ask.intent === "secret") {
    const { passwordRef, keyRef } = configSheet(world, radio.id, sheetContext(world));
    const ref = ask.of === "device" ? passwordRef : keyRef;
    try {
      return { ok: true, message: "", secret: await secretOf(store, planId, ref) };
    } catch (error) {
      if (error instanceof LostSecret) return { ok: false, message: error.message, status: 409 };
      throw error;
    }
  }
  if (ask.intent === "forget") {
    await dropStaging(store.db, planId, radio.id);
    return { ok: true, message: `${radio.name} begins anew with another device.` };
  }
  await store.db.transaction(async (tx) => {
    const known = await readStagingNote(tx, planId, radio.id);
    // What was practised says nothing of the real device.
    const note = known?.practiceRun === null ? known : blank(radio.id);
    if (ask.intent === "serial") note.serial = ask.serial;
    else if (ask.isDone) note.done[ask.step] = { at: new Date().toISOString(), who: author.who, note: "" };
    else delete note.done[ask.step];
    await writeStaging(tx, planId, note);
  });
  return { ok: true, message: "" };
}

const gone = (id: string) => ({ ok: false, message: `Radio "${id}" is not in the plan any more.`, status: 404 });
