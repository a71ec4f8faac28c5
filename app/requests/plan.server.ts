import type { LinkAnswer } from "#core/link";
import type { Link } from "#core/plan";
import { planContext, type Loaded, type PlanContext } from "#engine";
import { planStamp, type Store } from "#store";
import { data } from "react-router";
import { getStore } from "./store.server";

/** The store of the plan that a URL names, without working the plan out. Throws a 404 for an unknown plan. */
export async function requirePlanId(planId: string): Promise<Store> {
  const store = await getStore();
  if (!(await planStamp(store.db, planId))) throw data(`There is no plan "${planId}".`, { status: 404 });
  return store;
}

/** The plan that a URL names, to ask questions of. Throws a 404 for an unknown plan. */
export async function openPlan(planId: string): Promise<{ store: Store; context: PlanContext }> {
  const store = await getStore();
  const context = await planContext(store, planId);
  if (!context) throw data(`There is no plan "${planId}".`, { status: 404 });
  return { store, context };
}

interface Required extends Loaded {
  store: Store;
  context: PlanContext;
}

/** The plan that a URL names with its rows. Throws a 404 for an unknown plan. */
export async function requirePlan(planId: string): Promise<Required> {
  const { store, context } = await openPlan(planId);
  const loaded = await context.load();
  return {
    ...{ store, context, world: loaded.world, revision: loaded.revision },
    get rows() {
      return loaded.rows;
    },
  };
}

/** The kept link that a URL names, with its answer. Throws a 404 for an unknown plan or link. */
export async function requireLink(
  planId: string,
  linkId: string,
): Promise<Required & { link: Link; answer: LinkAnswer }> {
  const plan = await requirePlan(planId);
  const { context, rows, world } = plan;
  const link = world.links.get(linkId);
  const answer = await context.ask("link", { linkId });
  if (!link || !answer) throw data(`There is no link "${linkId}" in ${rows.plan.name}.`, { status: 404 });
  return { ...plan, link, answer };
}
