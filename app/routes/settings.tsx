import { planSchema } from "#core/plan";
import { RULE_SETS } from "#core/regulation";
import { applyChange } from "#store";
import { getFormProps, getInputProps, getSelectProps, useForm, type FieldMetadata } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { z } from "zod";
import { requirePlan } from "../data/plan.server";
import { signature } from "../data/preferences";
import { Button, buttonClass, SelectField, TextField } from "../ui";
import type { Route } from "./+types/settings";

const number = (min: number, max: number) =>
  z.coerce.number("is not a number").min(min, `is under ${min}`).max(max, `is over ${max}`);
const settingsSchema = z.object({
  name: z.string().trim().min(1, "needs a name").max(120),
  ruleSetId: z.enum(RULE_SETS.map((set) => set.id) as [string, ...string[]]),
  kFactor: number(0.3, 10),
  rainRate001MmPerH: number(0, 250),
  availabilityPercent: number(99, 99.999),
  marginTargetDb: number(0, 60),
  rainMarginDb: number(0, 60),
  proofFloorDbm: number(-100, 0),
  proofDeviationDb: number(0.5, 20),
});

export async function loader({ params }: Route.LoaderArgs) {
  const { context } = await requirePlan(params.planId);
  return { plan: context.rows.plan };
}

export async function action({ params, request }: Route.ActionArgs) {
  const { store, context } = await requirePlan(params.planId);
  const submission = parseWithZod(await request.formData(), { schema: settingsSchema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  const row = planSchema.parse({ ...context.rows.plan, ...submission.value });
  await applyChange(store.db, {
    planId: row.id,
    who: signature(request),
    what: "Changed the plan's settings",
    edits: [{ kind: "plans", id: row.id, row }],
  });
  return redirect(`/plans/${row.id}`);
}

export default function Settings({ loaderData: { plan }, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== "idle";
  const [form, fields] = useForm<z.input<typeof settingsSchema>>({
    lastResult: actionData,
    defaultValue: Object.fromEntries(
      Object.keys(settingsSchema.shape).map((name) => [name, String(plan[name as keyof typeof plan])]),
    ) as Record<string, string>,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: settingsSchema }),
    shouldValidate: "onBlur",
  });
  const text = (field: FieldMetadata<unknown>, label: string, unit?: string, hint?: string) => {
    const { key, ...props } = getInputProps(field as FieldMetadata<string>, { type: "text" });
    const error = field.errors?.[0];
    return (
      <TextField
        key={key}
        {...props}
        label={label}
        {...(unit ? { unit } : {})}
        {...(hint ? { hint } : {})}
        error={error && `${label} ${error}`}
      />
    );
  };
  const { key: ruleKey, ...ruleProps } = getSelectProps(fields.ruleSetId);
  return (
    <main className="mx-auto max-w-xl px-6 py-6">
      <title>{`Settings – ${plan.name}`}</title>
      <p className="text-sm">
        <Link to={`/plans/${plan.id}`} className="text-clay underline">
          {plan.name}
        </Link>
      </p>
      <h1 className="mb-3 text-xl font-semibold">Plan settings</h1>
      <Form method="post" {...getFormProps(form)} className="space-y-3">
        {text(fields.name, "Name")}
        <SelectField key={ruleKey} {...ruleProps} label="Rule set">
          {RULE_SETS.map((set) => (
            <option key={set.id} value={set.id}>
              {set.name}
            </option>
          ))}
        </SelectField>
        <p className="text-xs text-quiet">{RULE_SETS.find((set) => set.id === plan.ruleSetId)?.noted}</p>
        <div className="grid grid-cols-2 gap-3">
          {text(fields.kFactor, "Earth radius factor k", undefined, "4/3 in a normal atmosphere")}
          {text(fields.rainRate001MmPerH, "Rain rate, 0.01 % of the year", "mm/h")}
          {text(fields.availabilityPercent, "Availability wanted", "%")}
          {text(fields.rainMarginDb, "Margin left in rain, above 10 GHz", "dB")}
          {text(fields.marginTargetDb, "Fade margin wanted, below 10 GHz", "dB")}
          {text(fields.proofFloorDbm, "Proof: absolute floor", "dBm")}
          {text(fields.proofDeviationDb, "Proof: deviation allowed", "dB")}
        </div>
        <div className="flex gap-2">
          <Button type="submit" look="primary" disabled={busy}>
            Keep
          </Button>
          <Link to={`/plans/${plan.id}`} className={buttonClass()}>
            Leave as it was
          </Link>
        </div>
      </Form>
    </main>
  );
}
