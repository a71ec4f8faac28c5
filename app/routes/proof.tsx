import { randomUUID } from "node:crypto";
import { judge, type Verdict } from "#core/install";
import { linkEnds, measurementSchema, type Edit, type Measurement } from "#core/plan";
import { applyChange } from "#store";
import { getFormProps, getInputProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { format, parseISO } from "date-fns";
import { data, Form, Link, useNavigation } from "react-router";
import { z } from "zod";
import { requireLink } from "../data/plan.server";
import { signature } from "../data/preferences";
import { buttonClass, figure, ProofMark, TextField } from "../ui";
import type { Route } from "./+types/proof";

/** A number as written on a roof: decimal comma, printed minus, or nothing. */
const typed = (text: unknown) => (typeof text === "string" ? text.trim().replace("−", "-").replace(",", ".") : text);
const level = z.preprocess(
  typed,
  z.coerce.number("is not a number").min(-120, "is under −120 dBm").max(10, "is over 10 dBm"),
);
const optional = <S extends z.ZodType>(schema: S) =>
  z.preprocess((text) => (typed(text) === "" ? undefined : text), schema.optional());
const rate = z.preprocess(
  typed,
  z.coerce.number("is not a number").min(0, "is under 0").max(100_000, "is over 100000 Mbit/s"),
);

const readingSchema = z.object({
  levelA0Dbm: level,
  levelA1Dbm: optional(level),
  levelB0Dbm: level,
  levelB1Dbm: optional(level),
  noiseADbm: optional(level),
  noiseBDbm: optional(level),
  downMbps: optional(rate),
  upMbps: optional(rate),
  measuredBy: z.string().max(120).optional(),
  notes: z.string().max(4000).optional(),
});

export async function loader({ params, request }: Route.LoaderArgs) {
  const { context, link, answer } = await requireLink(params.planId, params.linkId);
  const { a, b } = linkEnds(context.world, link);
  const readings = context.rows.measurements
    .filter((one) => one.linkId === link.id)
    .sort((x, y) => y.measuredAt.localeCompare(x.measuredAt));
  return {
    planId: params.planId,
    plan: context.rows.plan,
    linkId: link.id,
    state: link.state,
    names: [a.placeName, b.placeName] as const,
    chains: Math.min(a.model.chains, b.model.chains),
    expected: answer.path
      ? {
          aDbm: answer.path.bToA.levelDbm,
          bDbm: answer.path.aToB.levelDbm,
          downMbps: answer.path.aToB.rateMbps,
          upMbps: answer.path.bToA.rateMbps,
        }
      : null,
    who: signature(request),
    readings: readings.map((reading) => ({ reading, verdict: judge(context.rows.plan, a, b, reading) })),
  };
}

export async function action({ params, request }: Route.ActionArgs) {
  const { store, context, link, answer } = await requireLink(params.planId, params.linkId);
  const submission = parseWithZod(await request.formData(), { schema: readingSchema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  if (!answer.path)
    return data(
      submission.reply({ formErrors: ["This path has no prediction to be held against; see it under Paths."] }),
      { status: 409 },
    );
  const { value } = submission;
  const orNull = <T,>(one: T | undefined) => one ?? null;
  const measurement: Measurement = measurementSchema.parse({
    id: randomUUID(),
    planId: params.planId,
    linkId: link.id,
    measuredAt: new Date().toISOString(),
    measuredBy: value.measuredBy?.trim() || signature(request),
    levelA0Dbm: value.levelA0Dbm,
    levelA1Dbm: orNull(value.levelA1Dbm),
    levelB0Dbm: value.levelB0Dbm,
    levelB1Dbm: orNull(value.levelB1Dbm),
    noiseADbm: orNull(value.noiseADbm),
    noiseBDbm: orNull(value.noiseBDbm),
    downMbps: orNull(value.downMbps),
    upMbps: orNull(value.upMbps),
    expectedADbm: Math.round(answer.path.bToA.levelDbm * 10) / 10,
    expectedBDbm: Math.round(answer.path.aToB.levelDbm * 10) / 10,
    notes: value.notes ?? "",
  });
  const { a, b } = linkEnds(context.world, link);
  const { state } = judge(context.rows.plan, a, b, measurement);
  const edits: Edit[] = [
    { kind: "measurements", id: measurement.id, row: measurement },
    { kind: "links", id: link.id, row: { ...link, state } },
  ];
  await applyChange(store.db, {
    planId: params.planId,
    who: measurement.measuredBy,
    what: `Reading on ${a.placeName} – ${b.placeName}: ${state}`,
    edits,
  });
  return data(submission.reply({ resetForm: true }));
}

function VerdictView({ verdict, reading }: { verdict: Verdict; reading: Measurement }) {
  return (
    <article className="rounded border border-rule bg-panel p-3">
      <h3 className="flex items-baseline justify-between gap-2">
        <span className="text-base font-semibold">
          <ProofMark state={verdict.state} />
        </span>
        <span className="text-xs text-quiet">
          {format(parseISO(reading.measuredAt), "d MMM yyyy, HH:mm")} · {reading.measuredBy}
        </span>
      </h3>
      <ul className="mt-1 text-sm">
        <li>
          {verdict.floor.passed ? "✓" : "✕"} <strong>Absolute floor:</strong> {verdict.floor.text}
        </li>
        <li>
          {verdict.deviation.passed ? "✓" : "✕"} <strong>Deviation from prediction:</strong> {verdict.deviation.text}
        </li>
      </ul>
      {verdict.causes.length > 0 && (
        <div className="mt-2 text-sm">
          <h4 className="font-semibold">What it looks like</h4>
          <ol className="space-y-1">
            {verdict.causes.map((cause) => (
              <li key={cause.kind}>
                <strong>{cause.title}.</strong> {cause.reason}. {cause.next}
              </li>
            ))}
          </ol>
        </div>
      )}
      {reading.notes && <p className="mt-1 text-sm text-quiet">{reading.notes}</p>}
    </article>
  );
}

/** What was measured, held against what was promised. */
export default function ProofRoute({ loaderData, actionData }: Route.ComponentProps) {
  const { planId, linkId, names, expected, chains, readings, plan } = loaderData;
  const busy = useNavigation().state !== "idle";
  const [form, fields] = useForm({
    id: `reading-${readings.length}`,
    lastResult: actionData,
    onValidate: ({ formData }) => parseWithZod(formData, { schema: readingSchema }),
    shouldValidate: "onBlur",
    shouldRevalidate: "onInput",
  });
  const box = (
    field: { errors?: string[] | undefined } & Parameters<typeof getInputProps>[0],
    label: string,
    unit: string,
  ) => {
    const { key, ...props } = getInputProps(field, { type: "text" });
    const error = field.errors?.[0];
    return (
      <TextField
        key={key}
        {...props}
        label={label}
        unit={unit}
        inputMode="text"
        className="figures min-h-11 text-right text-base"
        error={error && `${label} ${error}`}
      />
    );
  };
  const end = (name: string, expectedDbm: number | undefined, boxes: React.ReactNode) => (
    <fieldset className="rounded border border-rule bg-panel p-3">
      <legend className="px-1 font-semibold">Received at {name}</legend>
      {expectedDbm !== undefined && (
        <p className="mb-1 text-sm text-quiet">
          Expected <span className="figures">{figure(expectedDbm)} dBm</span>, ±{plan.proofDeviationDb} dB
        </p>
      )}
      <div className="grid grid-cols-2 gap-3">{boxes}</div>
    </fieldset>
  );
  return (
    <main className="mx-auto max-w-xl px-4 py-3">
      <title>{`${names.join(" – ")} – proof`}</title>
      <p className="flex justify-between text-sm">
        <Link to={`/plans/${planId}/proof?sel=link:${linkId}`} className="text-clay underline">
          Back to the desk
        </Link>
        <Link to={`/plans/${planId}/links/${linkId}/sheet`} className={buttonClass()}>
          Crew sheet
        </Link>
      </p>
      <h1 className="mt-2 text-xl font-semibold">
        {names[0]} – {names[1]}
      </h1>
      <p className="mb-3 text-sm">
        <ProofMark state={loaderData.state} />
      </p>
      {readings.length > 0 && (
        <section aria-label="Readings" className="mb-4 space-y-2">
          {readings.map(({ reading, verdict }) => (
            <VerdictView key={reading.id} reading={reading} verdict={verdict} />
          ))}
        </section>
      )}
      <h2 className="mb-2 text-lg font-semibold">A new reading</h2>
      {!expected && (
        <p role="alert" className="text-sm text-blocked">
          This path has no prediction, so a reading cannot be judged yet.
        </p>
      )}
      <Form method="post" {...getFormProps(form)} className="space-y-3">
        {form.errors && (
          <p role="alert" className="text-sm font-medium text-blocked">
            {form.errors.join(" ")}
          </p>
        )}
        {end(
          names[0],
          expected?.aDbm,
          <>
            {box(fields.levelA0Dbm, chains > 1 ? "First chain" : "Level", "dBm")}
            {chains > 1 && box(fields.levelA1Dbm, "Second chain", "dBm")}
            {box(fields.noiseADbm, "Noise", "dBm")}
          </>,
        )}
        {end(
          names[1],
          expected?.bDbm,
          <>
            {box(fields.levelB0Dbm, chains > 1 ? "First chain" : "Level", "dBm")}
            {chains > 1 && box(fields.levelB1Dbm, "Second chain", "dBm")}
            {box(fields.noiseBDbm, "Noise", "dBm")}
          </>,
        )}
        <fieldset className="rounded border border-rule bg-panel p-3">
          <legend className="px-1 font-semibold">Throughput</legend>
          {expected && (
            <p className="mb-1 text-sm text-quiet">
              Expected <span className="figures">{figure(expected.downMbps, 0)}</span> toward {names[1]},{" "}
              <span className="figures">{figure(expected.upMbps, 0)}</span> back
            </p>
          )}
          <div className="grid grid-cols-2 gap-3">
            {box(fields.downMbps, `Toward ${names[1]}`, "Mbit/s")}
            {box(fields.upMbps, `Toward ${names[0]}`, "Mbit/s")}
          </div>
        </fieldset>
        <TextField
          label="Measured by"
          name={fields.measuredBy.name}
          defaultValue={loaderData.who}
          className="min-h-11"
        />
        <TextField
          label="Notes"
          name={fields.notes.name}
          placeholder="Wind, leaves, what was odd"
          className="min-h-11"
        />
        <button
          type="submit"
          disabled={busy || !expected}
          className="min-h-13 w-full rounded bg-clay font-semibold text-on-clay disabled:opacity-50"
        >
          {busy ? "Saving…" : "Judge and keep"}
        </button>
      </Form>
    </main>
  );
}
