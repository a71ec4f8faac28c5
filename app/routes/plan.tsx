import { stepsOf } from "#store";
import { Outlet, type ShouldRevalidateFunctionArgs } from "react-router";
import { openPlan } from "../requests/plan.server";
import { BrokenPage } from "../frame/BrokenPage";
import type { FrameData } from "../frame/PlanFrame";
import { authorOf } from "../access/author.server";
import type { Route } from "./+types/plan";

/** What the bar of every page of a plan shows. */
export async function loader({ params, request }: Route.LoaderArgs): Promise<FrameData> {
  const { store, context } = await openPlan(params.planId);
  const { plan, revision } = await context.ask("plan");
  return {
    plan: { id: plan.id, name: plan.name },
    revision,
    counts: await context.ask("counts"),
    steps: await stepsOf(store.db, plan.id, authorOf(request).authors),
  };
}

/** Choosing something changes only the address's search: the bar need not be read again for it. */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs) {
  const choosing = currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search;
  return !formMethod && choosing ? false : defaultShouldRevalidate;
}

export default function PlanRoute() {
  return <Outlet />;
}

/** Also stands in for the desk and every page of the plan: a draft that cannot be drawn must never lock its plan. */
export function ErrorBoundary({ error, params }: Route.ErrorBoundaryProps) {
  return <BrokenPage error={error} planId={params.planId} />;
}
