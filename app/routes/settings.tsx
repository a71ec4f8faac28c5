import { climateAt } from "#core/climate";
import { CLEARANCE_SCHOOLS, CLIMATES, planSchema, SEASONS, setPatch, type Plan } from "#core/plan";
import { ruleSetOf } from "#core/regulation";
import { getFormProps, useForm, type FieldMetadata } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { useState } from "react";
import { Form, Link, useNavigate } from "react-router";
import { toast } from "sonner";
import { z } from "zod";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { keepPatches } from "../keep/keepPatches";
import { Button, buttonClass, figure, FormSelect, FormText } from "../ui";
import type { Route } from "./+types/settings";

const number = (min: number, max: number) =>
  z.coerce.number("is not a number").min(min, `is under ${min}`).max(max, `is over ${max}`);
/** Left empty, the climate of each path's latitude is taken. */
const orByLatitude = (min: number, max: number) =>
  number(min, max)
    .optional()
    .transform((value) => value ?? null);
/** Tiers as they are typed: "Basic 15, Plus 25.50". */
const tiersText = (tiers: Plan["tiers"]) => tiers.map(({ name, monthEur }) => `${name} ${monthEur}`).join(", ");
function tiersOf(typed: string | undefined, context: z.RefinementCtx): Plan["tiers"] {
  return (typed ?? "")
    .split(",")
    .filter((part) => part.trim() !== "")
    .map((part) => {
      const [, name = "", price = ""] = /^(.*\S)\s+(\d+(?:\.\d+)?)$/.exec(part.trim()) ?? [];
      const tier = planSchema.shape.tiers.unwrap().element.safeParse({ name, monthEur: Number(price) });
      if (tier.success) return tier.data;
      context.addIssue({ code: "custom", message: `"${part.trim()}" is no name and price, as in "Basic 15"` });
      return z.NEVER;
    });
}
/** Licensed spectrum as it is typed, a stretch a line: "71000-76000 L-1234". */
const licencesText = (licences: Plan["licences"]) =>
  licences.map(({ lowMHz, highMHz, reference }) => `${lowMHz}-${highMHz} ${reference}`.trim()).join("; ");
function licencesOf(typed: string | undefined, context: z.RefinementCtx): Plan["licences"] {
  return (typed ?? "")
    .split(/[;\n]/)
    .filter((part) => part.trim() !== "")
    .map((part) => {
      const [, low = "", high = "", reference = ""] =
        /^(\d+(?:\.\d+)?)\s*[-–]\s*(\d+(?:\.\d+)?)\s*(.*)$/.exec(part.trim()) ?? [];
      const licence = planSchema.shape.licences
        .unwrap()
        .element.safeParse({ lowMHz: Number(low), highMHz: Number(high), reference });
      if (licence.success) return licence.data;
      context.addIssue({
        code: "custom",
        message: `"${part.trim()}" is no stretch of spectrum with its licence, as in "71000-76000 L-1234"`,
      });
      return z.NEVER;
    });
}
const settingsSchema = z.object({
  name: z.string().trim().min(1, "needs a name").max(120),
  clearanceSchool: z.enum(CLEARANCE_SCHOOLS),
  climate: z.enum(CLIMATES),
  season: z.enum(SEASONS),
  kFactor: number(0.3, 10),
  rainRate001MmPerH: orByLatitude(0, 250),
  dN1NPerKm: orByLatitude(-1500, 0),
  pointingErrorDeg: number(0, 20),
  availabilityPercent: number(99, 99.999),
  marginTargetDb: number(0, 60),
  rainMarginDb: number(0, 60),
  proofFloorDbm: number(-100, 0),
  proofDeviationDb: number(0.5, 20),
  tiers: z.string().optional().transform(tiersOf),
  licences: z.string().optional().transform(licencesOf),
  usualMonthEur: number(0, 100_000),
  sectorWorkEur: number(0, 1_000_000),
  customerWorkEur: number(0, 1_000_000),
  oversubscription: number(1, 100),
  growthPercent: number(0, 300),
  gustMPerS: number(10, 90),
  iceMm: number(0, 100),
  sunlessDays: number(0, 60),
  budgetEur: number(0, 100_000_000),
});

export async function loader({ params }: Route.LoaderArgs) {
  const { rows, revision } = await requirePlan(params.planId);
  const { plan, sites, subscribers } = rows;
  const somewhere = sites[0] ?? subscribers[0] ?? null;
  return {
    plan,
    revision,
    ruleSet: ruleSetOf(plan).name,
    climate: somewhere && climateAt(somewhere.latDeg),
  };
}

/** A value as it stands in its box: four decimals are enough for any of them. */
const textOf = (value: unknown) =>
  Array.isArray(value)
    ? "lowMHz" in ((value[0] ?? {}) as object)
      ? licencesText(value as Plan["licences"])
      : tiersText(value as Plan["tiers"])
    : typeof value === "number"
      ? String(Number(value.toFixed(4)))
      : String(value ?? "");

export default function Settings({ loaderData: { plan, revision, ruleSet, climate } }: Route.ComponentProps) {
  const navigate = useNavigate();
  const [busy, setBusy] = useState(false);
  const shown = Object.fromEntries(
    Object.keys(settingsSchema.shape).map((name) => [name, textOf(plan[name as keyof typeof plan])]),
  ) as Record<string, string>;
  /** Keeps what was changed here alone: the rest may be another's by now. */
  const keep = async (settings: z.output<typeof settingsSchema>, typed: FormData) => {
    const set = Object.fromEntries(
      Object.entries(settings).filter(([name]) => String(typed.get(name) ?? "").trim() !== shown[name]),
    );
    if (Object.keys(set).length === 0) return navigate(`/plans/${plan.id}`);
    setBusy(true);
    const { ok, message } = await keepPatches(
      plan.id,
      revision,
      [setPatch("plans", plan.id, set)],
      "Changed the plan's settings",
    );
    setBusy(false);
    if (!ok) return void toast.error(message, { duration: 12_000 });
    toast(message);
    await navigate(`/plans/${plan.id}`);
  };
  const [form, fields] = useForm<z.input<typeof settingsSchema>, z.output<typeof settingsSchema>>({
    defaultValue: shown,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: settingsSchema }),
    shouldValidate: "onBlur",
    onSubmit: (event, { submission, formData }) => {
      event.preventDefault();
      if (submission?.status === "success") void keep(submission.value, formData);
    },
  });
  const text = (field: FieldMetadata<unknown>, label: string, unit?: string, hint?: string) => (
    <FormText field={field} label={label} {...(unit ? { unit } : {})} {...(hint ? { hint } : {})} />
  );
  const choice = (field: FieldMetadata<unknown>, label: string, choices: [value: string, word: string][]) => (
    <FormSelect field={field} label={label}>
      {choices.map(([value, word]) => (
        <option key={value} value={value}>
          {word}
        </option>
      ))}
    </FormSelect>
  );
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-xl px-6 py-6">
        <title>{`Settings – ${plan.name}`}</title>
        <h1 className="mb-3 text-xl font-semibold">Plan settings</h1>
        <Form method="post" {...getFormProps(form)} className="space-y-3">
          {text(fields.name, "Name")}
          <p className="text-sm">
            Rule set: <strong>{ruleSet}</strong>.{" "}
            <Link to={`/plans/${plan.id}/rules`} className="text-clay underline">
              See the rules, change the set
            </Link>
          </p>
          <div className="grid grid-cols-2 gap-3">
            {choice(fields.clearanceSchool, "Clearance: school", [
              ["sixtyPercent", "60 % of the zone at the plan’s k"],
              ["twoCondition", "two conditions: median k and worst weather"],
            ])}
            {choice(fields.climate, "Climate, for two conditions", [
              ["temperate", "temperate: the line free in worst weather"],
              ["tropical", "tropical: 60 % free, over 30 km"],
            ])}
            {choice(fields.season, "Season planned for", [
              ["inLeaf", "trees in leaf"],
              ["bare", "trees bare"],
            ])}
            {text(fields.pointingErrorDeg, "Pointing error allowed for", "°", "of antennas aimed at their far end")}
          </div>
          <div className="grid grid-cols-2 gap-3">
            {text(fields.kFactor, "Earth radius factor k", undefined, "4/3 in a normal atmosphere")}
            {text(
              fields.rainRate001MmPerH,
              "Rain rate, 0.01 % of the year",
              "mm/h",
              climate ? `empty: ${climate.rainRate001MmPerH} by latitude here (${climate.name})` : "empty: by latitude",
            )}
            {text(
              fields.dN1NPerKm,
              "Refractivity gradient, 1 % (dN1)",
              "N/km",
              climate ? `empty: ${figure(climate.dN1NPerKm, 0)} by latitude here` : "empty: by latitude",
            )}
            {text(fields.availabilityPercent, "Availability wanted", "%")}
            {text(fields.rainMarginDb, "Margin left in rain, above 10 GHz", "dB")}
            {text(fields.marginTargetDb, "Fade margin wanted, below 10 GHz", "dB")}
            {text(fields.proofFloorDbm, "Proof: absolute floor", "dBm")}
            {text(fields.proofDeviationDb, "Proof: deviation allowed", "dB")}
            {text(fields.tiers, "Tiers, with € a month", undefined, "as in: Basic 15, Plus 25.50")}
            {text(fields.licences, "Licensed spectrum, MHz", undefined, "as in: 71000-76000 L-1234; 5925-6425 AFC 77")}
            {text(fields.usualMonthEur, "A customer without a priced tier", "€ a month")}
            {text(fields.sectorWorkEur, "Work to put up a sector", "€")}
            {text(fields.customerWorkEur, "Work to put up a customer", "€")}
            {text(
              fields.oversubscription,
              "Oversubscription",
              ":1",
              "1: at the busy hour all use all they ask for; 4: a quarter of it together, though never less than one alone",
            )}
            {text(fields.growthPercent, "Growth of demand", "% a year", "0: none is reckoned with")}
            {text(fields.gustMPerS, "Gust that masts are reckoned with", "m/s")}
            {text(fields.iceMm, "Ice that antennas bear in that gust", "mm", "all round; 0: none")}
            {text(fields.sunlessDays, "Days without sun that batteries hold", "days")}
            {text(fields.budgetEur, "Budget for kit", "€", "0: nobody said")}
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
    </PlanFrame>
  );
}
