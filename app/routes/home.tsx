import { randomUUID } from "node:crypto";
import { libraryFor } from "#core/catalogue";
import { emptyRows, newPlan, planSchema } from "#core/plan";
import { whoAsks } from "#accounts";
import { createPlan, listBackups, listPlans, NoRoom, rolesOf } from "#store";
import { getFormProps, useForm, type FieldMetadata } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { data, Form, Link, redirect, useActionData, useNavigation } from "react-router";
import { nameSchema } from "../requests/nameSchema";
import { authorOf } from "../access/author.server";
import { accessInContext } from "../access/context";
import { readPreferences } from "../shared/preferences";
import { getStore, seedDemo } from "../requests/store.server";
import { Backups } from "../import/Backups";
import { OpenArchive } from "../import/OpenArchive";
import { Button, FormText, Mark } from "../ui";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/home";

export async function loader({ request, context }: Route.LoaderArgs) {
  const store = await getStore();
  const { isOpen } = context.get(accessInContext);
  const me = whoAsks();
  // Beyond this machine everybody sees the plans that they have a role in; on it, and for keepers, all.
  const roles = me && !me.isKeeper ? await rolesOf(store.db, me.id) : null;
  const plans = await listPlans(store.db);
  return {
    plans: plans.flatMap((plan) => {
      const role = roles ? roles.get(plan.id) : ("owner" as const);
      return role ? [{ ...plan, role }] : [];
    }),
    preferences: readPreferences(request),
    backups: roles ? null : listBackups(store).map(({ name, bytes }) => ({ name, bytes })),
    me: isOpen ? (me?.name ?? null) : null,
  };
}

export async function action({ request }: Route.ActionArgs) {
  const store = await getStore();
  const form = await formOf(request);
  if (form.get("intent") === "demo") return redirect(`/plans/${encodeURIComponent(await seedDemo(store))}`);
  const submission = parseWithZod(form, { schema: nameSchema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  const id = randomUUID();
  const plan = newPlan({ id, ...submission.value, createdAt: new Date().toISOString() });
  const rows = { ...emptyRows(planSchema.parse(plan)), equipment: libraryFor(id) };
  try {
    await createPlan(store.db, rows, authorOf(request), "Began the plan");
  } catch (error) {
    if (error instanceof NoRoom)
      return data(submission.reply({ fieldErrors: { name: [`is not begun: ${error.message}`] } }), { status: 507 });
    throw error;
  }
  return redirect(`/plans/${id}/survey`);
}

export default function Home({ loaderData: { plans, backups, me } }: Route.ComponentProps) {
  const lastResult = useActionData<typeof action>();
  const [form, fields] = useForm({
    ...(lastResult ? { lastResult } : {}),
    onValidate: ({ formData }) => parseWithZod(formData, { schema: nameSchema }),
    shouldRevalidate: "onInput",
  });
  const busy = useNavigation().state !== "idle";
  const hasDemo = plans.some((plan) => plan.isDemo);
  return (
    <main className="mx-auto max-w-2xl px-6 py-12">
      <title>Plans – Tejado</title>
      <h1 className="mb-1 flex items-center gap-2 text-2xl font-semibold">
        <Mark size={30} /> Tejado
      </h1>
      <p className="mb-8 text-quiet">Plan wireless access from the first survey to the link that is proven.</p>
      {me && (
        <p className="mb-4 text-sm">
          Signed in as {me}.{" "}
          <Link to="/account" className="text-clay underline">
            Your account
          </Link>
        </p>
      )}
      {plans.length > 0 && (
        <section className="mb-8">
          <h2 className="mb-2 text-sm font-semibold">Plans</h2>
          <ul className="divide-y divide-rule rounded border border-rule bg-panel">
            {plans.map((plan) => (
              <li key={plan.id}>
                <Link
                  to={`/plans/${encodeURIComponent(plan.id)}${plan.role === "crew" ? "/crew" : ""}`}
                  className="flex items-baseline justify-between gap-4 px-3 py-2 hover:text-clay"
                >
                  <span className="font-medium">{plan.name}</span>
                  <span className="figures text-xs text-quiet">
                    {plan.siteCount} sites · {plan.subscriberCount} subscribers · {plan.linkCount} links
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
      )}
      <div className="grid gap-4 sm:grid-cols-2">
        <Form method="post" {...getFormProps(form)} className="rounded border border-rule bg-panel p-4">
          <h2 className="mb-2 font-semibold">A new plan</h2>
          <FormText field={fields.name as FieldMetadata<unknown>} label="Name" />
          <p className="my-2 text-xs text-quiet">Put sites and customers on it by hand, or bring them as files.</p>
          <Button type="submit" name="intent" value="new" look="primary" disabled={busy}>
            Begin
          </Button>
        </Form>
        <OpenArchive />
        {!hasDemo && (
          <Form method="post" className="rounded border border-rule bg-panel p-4">
            <h2 className="mb-2 font-semibold">The demo</h2>
            <p className="mb-3 text-sm text-quiet">
              Isla Orvena, a made-up island of 18 × 13 km with a network that works in part: blocked, over a cap, on a
              side lobe.
            </p>
            <Button type="submit" name="intent" value="demo" disabled={busy}>
              {busy ? "Laying it out…" : "Lay out the demo"}
            </Button>
          </Form>
        )}
      </div>
      {backups && <Backups backups={backups} />}
    </main>
  );
}
