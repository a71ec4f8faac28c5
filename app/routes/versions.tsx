import type { Outcome } from "#core/outcome";
import type { PlanRows } from "#core/plan";
import { askOf } from "#engine";
import {
  dropVersion,
  patchesBetween,
  listVersions,
  nameVersion,
  NoRoom,
  readPlan,
  readVersion,
  type Store,
} from "#store";
import { getFormProps, useForm, type FieldMetadata } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { format } from "date-fns";
import { data, Form, Link, useNavigation } from "react-router";
import { nameSchema } from "../requests/nameSchema";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { authorOf } from "../access/author.server";
import { keepOwn } from "../keep/keep.server";
import { Button, buttonClass, euros, figure, FormText, roughly, SelectField } from "../ui";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/versions";

const NOW = "now";
const MOST_LINES = 200;

async function rowsOf(store: Store, planId: string, id: string): Promise<PlanRows | null> {
  return id === NOW ? readPlan(store.db, planId) : readVersion(store.db, planId, id);
}

interface Side {
  outcome: Outcome;
  findings: number;
  blocked: number;
}

/** The outcome of a state of the plan, over the terrain that it had. */
const sideOf = (store: Store, rows: PlanRows): Promise<Side> => askOf(store, rows, "side");

export async function loader({ params, url }: Route.LoaderArgs) {
  const { store, rows: now } = await requirePlan(params.planId);
  const versions = await listVersions(store.db, params.planId);
  const query = url.searchParams;
  const from = query.get("from") ?? versions[0]?.id ?? NOW;
  const to = query.get("to") ?? NOW;
  const [before, after] = [await rowsOf(store, params.planId, from), await rowsOf(store, params.planId, to)];
  const compared =
    before && after && from !== to
      ? {
          before: await sideOf(store, before),
          after: await sideOf(store, after),
          lines: describe(before, after),
        }
      : null;
  return {
    plan: now.plan,
    versions: versions.map(({ at, ...version }) => ({ ...version, at: at.toISOString() })),
    from,
    to,
    compared,
  };
}

/** What differs, a line a thing. */
function describe(before: PlanRows, after: PlanRows): string[] {
  const nameOf = (rows: PlanRows, kind: string, id: string) => {
    const list = (rows as unknown as Record<string, { id: string; name?: string }[]>)[kind];
    return Array.isArray(list) ? list.find((row) => row.id === id)?.name : undefined;
  };
  return patchesBetween(before, after).map(({ kind, id, remove }) => {
    const old = nameOf(before, kind, id);
    const name = nameOf(after, kind, id) ?? old ?? id;
    const known =
      kind === "plans" || (before as unknown as Record<string, { id: string }[]>)[kind]?.some((one) => one.id === id);
    return `${remove ? "−" : known ? "✎" : "+"} ${kind}: ${name}`;
  });
}

export async function action({ params, request }: Route.ActionArgs) {
  const { store, rows: now, revision } = await requirePlan(params.planId);
  const form = await formOf(request);
  const { who } = authorOf(request);
  const id = String(form.get("id") ?? "");
  if (form.get("intent") === "name") {
    const named = nameSchema.safeParse({ name: form.get("name") });
    if (!named.success)
      return data({ ok: false, message: `The name ${named.error.issues[0]!.message}.` }, { status: 400 });
    const { name } = named.data;
    try {
      await nameVersion(store.db, params.planId, name, who);
    } catch (error) {
      if (error instanceof NoRoom) return data({ ok: false, message: error.message }, { status: 507 });
      throw error;
    }
    return data({ ok: true, message: `Kept as "${name}".` });
  }
  if (form.get("intent") === "drop") {
    await dropVersion(store.db, params.planId, id);
    return data({ ok: true, message: "The name is gone; the plan is as it was." });
  }
  const rows = await readVersion(store.db, params.planId, id);
  if (!rows) return data({ ok: false, message: "There is no such version." }, { status: 404 });
  const patches = patchesBetween(now, rows);
  if (patches.length === 0) return data({ ok: true, message: "The plan stands as that version does." });
  const named = (await listVersions(store.db, params.planId)).find((version) => version.id === id)!;
  const what = `Went back to "${named.name}"`;
  const kept = await keepOwn(store, params.planId, authorOf(request), { what, patches, base: revision });
  if (!kept.ok) return data({ ok: false, message: kept.message }, { status: kept.status });
  return data({ ok: true, message: `The plan stands as "${named.name}" again. Undo takes that back.` });
}

export default function Versions({ loaderData, actionData }: Route.ComponentProps) {
  const { plan, versions, from, to, compared } = loaderData;
  const busy = useNavigation().state !== "idle";
  const [form, fields] = useForm({
    onValidate: ({ formData }) => parseWithZod(formData, { schema: nameSchema }),
    shouldRevalidate: "onInput",
  });
  const choices = [{ id: NOW, name: "the plan now" }, ...versions];
  const row = (label: string, read: (side: Side) => string) =>
    compared && (
      <tr className="border-t border-rule">
        <th scope="row" className="py-1 text-left font-normal text-quiet">
          {label}
        </th>
        <td className="figures text-right">{read(compared.before)}</td>
        <td className="figures text-right">{read(compared.after)}</td>
      </tr>
    );
  const decibels = (value: number | null, unit: string) => (value === null ? "–" : `${figure(value)} ${unit}`);
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-4xl px-6 py-6">
        <title>{`Versions – ${plan.name}`}</title>
        <p className="flex gap-4 text-sm">
          <Link to={`/plans/${plan.id}/logbook`} className="text-clay underline">
            Logbook
          </Link>
        </p>
        <h1 className="mb-3 text-xl font-semibold">Named versions</h1>
        {actionData && (
          <p
            role={actionData.ok ? "status" : "alert"}
            className={`mb-3 rounded border p-2 text-sm font-medium ${actionData.ok ? "border-clear" : "border-blocked"}`}
          >
            {actionData.message}
          </p>
        )}
        <Form method="post" {...getFormProps(form)} className="mb-4 flex items-start gap-2">
          <div className="w-80">
            <FormText
              field={fields.name as FieldMetadata<unknown>}
              label="Keep the plan as it stands under a name"
              says="The name"
            />
          </div>
          <Button type="submit" name="intent" value="name" look="primary" disabled={busy} className="mt-5">
            Keep
          </Button>
        </Form>
        {versions.length === 0 ? (
          <p className="text-sm text-quiet">
            None yet. Name one before a larger change, to compare with it later or to go back.
          </p>
        ) : (
          <table className="mb-6 w-full text-sm">
            <tbody>
              {versions.map((version) => (
                <tr key={version.id} className="border-b border-rule">
                  <td className="py-1.5 font-medium">{version.name}</td>
                  <td className="text-quiet">
                    {format(new Date(version.at), "yyyy-MM-dd HH:mm")}, {version.who}
                  </td>
                  <td className="text-right">
                    <Form method="post" className="flex justify-end gap-1.5">
                      <input type="hidden" name="id" value={version.id} />
                      <Link to={`?from=${version.id}&to=${NOW}`} className={buttonClass()}>
                        Compare with now
                      </Link>
                      <Button type="submit" name="intent" value="back" disabled={busy}>
                        Go back to it
                      </Button>
                      <Button type="submit" name="intent" value="drop" disabled={busy}>
                        Drop the name
                      </Button>
                    </Form>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {versions.length > 0 && (
          <section aria-label="Comparison">
            <h2 className="mb-2 font-semibold">Compare</h2>
            <Form method="get" className="mb-3 flex items-end gap-2">
              {(
                [
                  ["from", "Before", from],
                  ["to", "After", to],
                ] as const
              ).map(([name, label, value]) => (
                <SelectField key={`${name} ${value}`} label={label} name={name} defaultValue={value}>
                  {choices.map((choice) => (
                    <option key={choice.id} value={choice.id}>
                      {choice.name}
                    </option>
                  ))}
                </SelectField>
              ))}
              <Button type="submit" disabled={busy}>
                {busy ? "Comparing…" : "Compare"}
              </Button>
            </Form>
            {compared ? (
              <div className="grid gap-6 sm:grid-cols-2">
                <table className="self-start text-sm">
                  <caption className="text-left font-semibold">In outcome</caption>
                  <thead>
                    <tr className="text-xs text-quiet">
                      <th>
                        <span className="sr-only">Figure</span>
                      </th>
                      <th className="text-right font-normal">before</th>
                      <th className="text-right font-normal">after</th>
                    </tr>
                  </thead>
                  <tbody>
                    {row("Customers served", ({ outcome }) => String(outcome.customersServed))}
                    {row("People served", ({ outcome }) => String(outcome.peopleServed))}
                    {row("Weakest margin", ({ outcome }) => decibels(outcome.weakestMarginDb, "dB"))}
                    {row("Noise made", ({ outcome }) => `${roughly(outcome.noiseMadePeopleKm2)} people·km²`)}
                    {row("Cost", ({ outcome }) => euros(outcome.costEur))}
                    {row("Blocked links", ({ blocked }) => String(blocked))}
                    {row("Findings", ({ findings }) => String(findings))}
                  </tbody>
                </table>
                <div>
                  <h3 className="text-sm font-semibold">In what stands there ({compared.lines.length})</h3>
                  <ul className="figures max-h-80 overflow-y-auto text-xs" tabIndex={0} aria-label="Differences">
                    {compared.lines.slice(0, MOST_LINES).map((line, i) => (
                      <li key={i}>{line}</li>
                    ))}
                    {compared.lines.length > MOST_LINES && <li>and {compared.lines.length - MOST_LINES} more</li>}
                    {compared.lines.length === 0 && <li>Nothing differs.</li>}
                  </ul>
                </div>
              </div>
            ) : (
              <p className="text-sm text-quiet">Choose two different states.</p>
            )}
          </section>
        )}
      </main>
    </PlanFrame>
  );
}
