import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import { requirePlan } from "../data/plan.server";
import { Register } from "../register/Register";
import type { RegisterKind, RegisterRow } from "../register/columns";
import { buttonClass } from "../ui";
import type { Route } from "./+types/register";

export async function loader({ params, request }: Route.LoaderArgs) {
  const { context } = await requirePlan(params.planId);
  const { plan, sites, subscribers } = context.rows;
  const kind: RegisterKind = new URL(request.url).searchParams.get("kind") === "sites" ? "sites" : "subscribers";
  // Ten thousand rows travel as one text: the framework's own encoding takes many times as long.
  return { planId: plan.id, planName: plan.name, kind, packed: JSON.stringify(kind === "sites" ? sites : subscribers) };
}

const TABS = [
  ["subscribers", "Subscribers"],
  ["sites", "Sites"],
] as const;

/** The survey as a table. */
export default function RegisterRoute({ loaderData: { planId, planName, kind, packed } }: Route.ComponentProps) {
  const rows = useMemo(() => JSON.parse(packed) as RegisterRow[], [packed]);
  const [params] = useSearchParams();
  return (
    <main className="flex h-dvh flex-col">
      <title>{`Register – ${planName}`}</title>
      <header className="flex items-baseline gap-4 border-b border-rule bg-panel px-3 py-2">
        <Link to={`/plans/${planId}/survey`} className="text-sm text-clay underline">
          {planName}
        </Link>
        <h1 className="font-semibold">Register</h1>
        <nav aria-label="What is listed" className="flex gap-3 text-sm">
          {TABS.map(([key, title]) => (
            <Link
              key={key}
              to={`?kind=${key}`}
              aria-current={kind === key ? "page" : undefined}
              className={kind === key ? "border-b-2 border-clay font-semibold" : "hover:text-clay"}
            >
              {title}
            </Link>
          ))}
        </nav>
        <span className="ml-auto flex gap-1.5">
          <Link className={buttonClass()} to={`/plans/${planId}/import`}>
            Import
          </Link>
        </span>
      </header>
      <Register key={`${kind}-${params.get("kind")}`} kind={kind} planId={planId} rows={rows} />
    </main>
  );
}
