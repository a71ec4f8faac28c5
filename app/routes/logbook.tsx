import { historyPeople, readHistory } from "#store";
import { declared, fieldWord, ROW_KINDS, rowIn, valueWord, type KeptPatch } from "#core/plan";
import { format } from "date-fns";
import { Form, Link, useSubmit } from "react-router";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { Button, buttonClass, SelectField, TextField, Table, type Column } from "../ui";
import type { Route } from "./+types/logbook";

const PAGE = 200;
const MOST_FIELDS = 12;

/** What an entry did, as "name, field: before → after". */
function differences(patches: readonly KeptPatch[], nameOf: (patch: KeptPatch) => string): string[] {
  const told: string[] = [];
  for (const patch of patches) {
    const name = nameOf(patch);
    if ("put" in patch) told.push(`${name}: added`);
    else if ("remove" in patch) told.push(`${name}: removed`);
    else
      for (const [field, value] of Object.entries(patch.set))
        told.push(
          `${name}, ${fieldWord(patch.kind, field)}: ${valueWord(patch.kind, field, patch.was[field])} → ${valueWord(patch.kind, field, value)}`,
        );
    if (told.length > MOST_FIELDS) return [...told.slice(0, MOST_FIELDS), "…"];
  }
  return told;
}

const COLUMNS: Column[] = [
  { name: "When" },
  { name: "Who" },
  { name: "What" },
  { name: "Why" },
  { name: "Rows", isNumber: true },
];

export async function loader({ params, url }: Route.LoaderArgs) {
  const { store, rows, world } = await requirePlan(params.planId);
  const query = url.searchParams;
  const kind = ROW_KINDS.find((one) => one === query.get("kind"));
  const before = Number(query.get("before"));
  const filter = { words: query.get("words") ?? "", who: query.get("who") ?? "" };
  const entries = await readHistory(store.db, params.planId, {
    ...filter,
    ...(kind ? { kind } : {}),
    ...(before > 0 ? { beforeRevision: before } : {}),
    limit: PAGE,
  });
  const nameOf = (patch: KeptPatch) => {
    const row =
      ("put" in patch ? patch.put : "remove" in patch ? patch.was : null) ?? rowIn(world, patch.kind, patch.id);
    return String((row as { name?: string } | null)?.name ?? patch.id);
  };
  return {
    plan: rows.plan,
    people: await historyPeople(store.db, params.planId),
    filter: { ...filter, kind: kind ?? "" },
    entries: entries.map(({ revision, at, who, what, reason, kind: way, patches }) => ({
      revision,
      at: at.toISOString(),
      who,
      what,
      reason,
      kind: way,
      count: patches.length,
      differences: differences(patches, nameOf),
    })),
  };
}

/** Every change, newest first: who, when, what and why, and what stood there before. */
export default function Logbook({ loaderData: { plan, people, filter, entries } }: Route.ComponentProps) {
  const submit = useSubmit();
  const next = new URLSearchParams({ ...filter, before: String(entries.at(-1)?.revision ?? 0) });
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-5xl px-6 py-6">
        <title>{`Logbook – ${plan.name}`}</title>
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
            {ROW_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {declared(kind).many}
              </option>
            ))}
          </SelectField>
          <Button type="submit">Filter</Button>
        </Form>
        <Table caption="Changes to the plan, newest first" columns={COLUMNS}>
          {entries.map((entry) => (
            <tr key={entry.revision} className="border-b border-rule align-top">
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
        </Table>
        {entries.length === 0 && <p className="py-6 text-center text-sm text-quiet">No entry fits the filter.</p>}
        {entries.length === PAGE && (
          <Link to={`?${next.toString()}`} className={`mt-3 ${buttonClass()}`}>
            Older entries
          </Link>
        )}
      </main>
    </PlanFrame>
  );
}
