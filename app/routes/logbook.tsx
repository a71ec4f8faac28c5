import { readHistory } from "#store";
import { format } from "date-fns";
import { Link } from "react-router";
import { requirePlan } from "../data/plan.server";
import type { Route } from "./+types/logbook";

export async function loader({ params }: Route.LoaderArgs) {
  const { store, context } = await requirePlan(params.planId);
  const entries = await readHistory(store.db, params.planId);
  return {
    plan: context.rows.plan,
    entries: entries.map(({ id, at, who, what, reason, kind, edits }) => ({
      id,
      at: at.toISOString(),
      who,
      what,
      reason,
      kind,
      count: edits.length,
    })),
  };
}

/** Every change, newest first: who, when, what and why. */
export default function Logbook({ loaderData: { plan, entries } }: Route.ComponentProps) {
  return (
    <main className="mx-auto max-w-4xl px-6 py-6">
      <title>{`Logbook – ${plan.name}`}</title>
      <p className="text-sm">
        <Link to={`/plans/${plan.id}`} className="text-clay underline">
          {plan.name}
        </Link>
      </p>
      <h1 className="mb-3 text-xl font-semibold">Logbook</h1>
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b border-rule text-left text-xs text-quiet">
            <th className="py-1 font-normal">When</th>
            <th className="font-normal">Who</th>
            <th className="font-normal">What</th>
            <th className="font-normal">Why</th>
            <th className="text-right font-normal">Rows</th>
          </tr>
        </thead>
        <tbody>
          {entries.map((entry) => (
            <tr key={entry.id} className="border-b border-rule align-top">
              <td className="figures py-1.5 pr-3 whitespace-nowrap text-quiet">
                {format(new Date(entry.at), "yyyy-MM-dd HH:mm")}
              </td>
              <td className="pr-3">{entry.who}</td>
              <td className="pr-3">
                {entry.kind !== "change" && <strong>{entry.kind === "undo" ? "Took back: " : "Put back: "}</strong>}
                {entry.what}
              </td>
              <td className="pr-3 text-quiet">{entry.reason}</td>
              <td className="figures text-right text-quiet">{entry.count}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </main>
  );
}
