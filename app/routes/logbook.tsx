import { historyPeople, readHistory } from "#store";
import type { RowKind } from "#core/plan";
import { format } from "date-fns";
import { Form, Link, useSubmit } from "react-router";
import { requirePlan } from "../data/plan.server";
import { Button, buttonClass, SelectField, TextField } from "../ui";
import type { Route } from "./+types/logbook";

const PAGE = 200;
const KINDS: [RowKind, string][] = [
  ["sites", "sites"],
  ["subscribers", "subscribers"],
  ["radios", "radios"],
  ["links", "links"],
  ["measurements", "readings"],
  ["equipment", "equipment"],
  ["layers", "terrain"],
  ["areas", "outlines"],
  ["overlays", "overlays"],
  ["scans", "noise scans"],
  ["photos", "photographs"],
  ["plans", "plan settings"],
];
const MOST_FIELDS = 12;

/** The fields in which the rows of an entry differ, as "name: before → after". */
function differences(patches: { before: unknown; after: unknown }[]): string[] {
  const said: string[] = [];
  const short = (value: unknown) => {
    const text = typeof value === "object" ? JSON.stringify(value) : String(value);
    return text.length > 40 ? `${text.slice(0, 40)}…` : text;
  };
  for (const { before, after } of patches) {
    const old = (before ?? {}) as Record<string, unknown>;
    const now = (after ?? {}) as Record<string, unknown>;
    const name = String(now.name ?? old.name ?? now.id ?? old.id ?? "");
    if (!before) said.push(`${name}: added`);
    else if (!after) said.push(`${name}: removed`);
    else
      for (const key of Object.keys(now))
        if (JSON.stringify(now[key]) !== JSON.stringify(old[key]))
          said.push(`${name}, ${key}: ${short(old[key])} → ${short(now[key])}`);
    if (said.length > MOST_FIELDS) return [...said.slice(0, MOST_FIELDS), "…"];
  }
  return said;
}

export async function loader({ params, request }: Route.LoaderArgs) {
  const { store, context } = await requirePlan(params.planId);
  const query = new URL(request.url).searchParams;
  const kind = KINDS.find(([key]) => key === query.get("kind"))?.[0];
  const before = Number(query.get("before"));
  const filter = { words: query.get("words") ?? "", who: query.get("who") ?? "" };
  const entries = await readHistory(store.db, params.planId, {
    ...filter,
    ...(kind ? { kind } : {}),
    ...(before > 0 ? { beforeId: before } : {}),
    limit: PAGE,
  });
  return {
    plan: context.rows.plan,
    people: await historyPeople(store.db, params.planId),
    filter: { ...filter, kind: kind ?? "" },
    entries: entries.map(({ id, at, who, what, reason, kind: way, patches }) => ({
      id,
      at: at.toISOString(),
      who,
      what,
      reason,
      kind: way,
      count: patches.length,
      differences: differences(patches),
    })),
  };
}

/** Every change, newest first: who, when, what and why, and what stood there before. */
export default function Logbook({ loaderData: { plan, people, filter, entries } }: Route.ComponentProps) {
  const submit = useSubmit();
  const next = new URLSearchParams({ ...filter, before: String(entries.at(-1)?.id ?? 0) });
  return (
    <main className="mx-auto max-w-5xl px-6 py-6">
      <title>{`Logbook – ${plan.name}`}</title>
      <p className="text-sm">
        <Link to={`/plans/${plan.id}`} className="text-clay underline">
          {plan.name}
        </Link>
      </p>
      <div className="mb-3 flex items-baseline justify-between">
        <h1 className="text-xl font-semibold">Logbook</h1>
        <Link to={`/plans/${plan.id}/versions`} className={buttonClass()}>
          Named versions
        </Link>
      </div>
      <Form method="get" className="mb-3 flex items-end gap-3" onChange={(event) => void submit(event.currentTarget)}>
        <TextField label="Words" name="words" defaultValue={filter.words} />
        <SelectField label="Who" name="who" defaultValue={filter.who}>
          <option value="">everybody</option>
          {people.map((who) => (
            <option key={who}>{who}</option>
          ))}
        </SelectField>
        <SelectField label="What" name="kind" defaultValue={filter.kind}>
          <option value="">everything</option>
          {KINDS.map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </SelectField>
        <Button type="submit">Filter</Button>
      </Form>
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
                {entry.differences.length > 0 && (
                  <details>
                    <summary className="text-xs text-quiet">what stood there before</summary>
                    <ul className="figures text-xs text-quiet">
                      {entry.differences.map((line, i) => (
                        <li key={i}>{line}</li>
                      ))}
                    </ul>
                  </details>
                )}
              </td>
              <td className="pr-3 text-quiet">{entry.reason}</td>
              <td className="figures text-right text-quiet">{entry.count}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {entries.length === 0 && <p className="py-6 text-center text-sm text-quiet">No entry fits the filter.</p>}
      {entries.length === PAGE && (
        <Link to={`?${next.toString()}`} className={`mt-3 ${buttonClass()}`}>
          Older entries
        </Link>
      )}
    </main>
  );
}
