import { stockProblem } from "#core/bill";
import { besideStamp, putStock, readStock, stockOf } from "#store";
import { stockAskSchema } from "#wire";
import { data } from "react-router";
import { askedOf } from "../requests/asked.server";
import { besideOf } from "../requests/beside.server";
import { requirePlan } from "../requests/plan.server";
import type { Route } from "./+types/stock";

const NO_STORE = { "Cache-Control": "no-store" };

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
  const { itemId, field, count } = await askedOf(request, stockAskSchema, "Not kept");
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
