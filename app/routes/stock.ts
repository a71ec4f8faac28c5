import { stockProblem } from "#core/bill";
import { besideStamp, putStock, readStock, stockOf } from "#store";
import { data } from "react-router";
import { z } from "zod";
import { askedOf } from "../data/asked.server";
import { besideOf } from "../data/beside.server";
import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/stock";

const NO_STORE = { "Cache-Control": "no-store" };
const MOST = 1_000_000;
const askSchema = z.object({
  itemId: z.string().min(1).max(200),
  field: z.enum(["inStore", "ordered", "arrived", "packed"]),
  count: z.number().int("must be a whole number").min(0, "must be 0 or more").max(MOST, `must be ${MOST} or less`),
});
export type StockAsk = z.infer<typeof askSchema>;

/** What is in store, ordered, arrived and packed. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const { store } = await requirePlan(params.planId);
  return besideOf(request, await besideStamp(store.db, "stock", params.planId), () =>
    readStock(store.db, params.planId),
  );
}

/** Puts one figure of one item; what cannot be is refused with its reason, and nothing is kept. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, world } = await requirePlan(params.planId);
  const { itemId, field, count } = await askedOf(request, askSchema, "Not kept");
  if (![world.radioModels, world.antennaModels, world.parts].some((sheets) => sheets.has(itemId)))
    throw data(`Not kept: "${itemId}" is not in the library.`, { status: 404 });
  const problem = await store.db.transaction(async (tx) => {
    const refused = stockProblem({ ...(await stockOf(tx, params.planId, itemId)), [field]: count });
    if (refused === null) await putStock(tx, params.planId, itemId, field, count);
    return refused;
  });
  const answer = problem === null ? { ok: true, message: "" } : { ok: false, message: `Not kept: ${problem}.` };
  return Response.json(answer, { status: problem === null ? 200 : 422, headers: NO_STORE });
}
