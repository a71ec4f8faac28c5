import { z } from "zod";
import { authorOf } from "../access/author.server";
import { requirePlanId } from "../requests/plan.server";
import { keepSent, stepBack, type KeepResult } from "../keep/keep.server";
import { jsonOf } from "../requests/asked.server";
import type { Route } from "./+types/changes";

const op = z.string().max(100).default("");
const bodySchema = z.discriminatedUnion("intent", [
  z.object({
    intent: z.literal("keep"),
    op,
    /** Of patches that name none. */
    base: z.number().int().min(0).optional(),
    patches: z.unknown(),
    what: z.string().max(300),
    reason: z.string().max(200).default(""),
  }),
  z.object({ intent: z.enum(["undo", "redo"]), op, leaveTheirs: z.boolean().default(false) }),
]);

/** Keeps a change sent as JSON, or takes one back. Answers `{ok, message, revision, conflicts}`. */
export async function action({ params: { planId }, request }: Route.ActionArgs) {
  const store = await requirePlanId(planId);
  const parsed = bodySchema.safeParse(await jsonOf(request));
  if (!parsed.success)
    return Response.json({ ok: false, message: "Not kept: the change that arrived is no change." }, { status: 400 });
  const { data: body } = parsed;
  const author = authorOf(request);
  let result: KeepResult;
  if (body.intent === "keep") {
    const { op: name, base, patches, what, reason } = body;
    const order = { op: name, patches, what, reason };
    result = await keepSent(store, planId, author, { ...order, ...(base === undefined ? {} : { base }) });
  } else {
    const { intent: way, op: name, leaveTheirs } = body;
    result = await stepBack(store, planId, author, { way, op: name, leaveTheirs });
  }
  const { status, ...answer } = result;
  return Response.json(answer, { status });
}
