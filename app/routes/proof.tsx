import { randomUUID } from "node:crypto";
import { mendVisit } from "#core/crews";
import { chainLevels, criteriaChanged, judge, linkStates, promisedBy, schoolsOf, type Verdict } from "#core/proof";
import { chainWords, commonChains, type Tape } from "#core/link";
import {
  putPatch,
  linkEnds,
  measurementSchema,
  patchBetween,
  removePatch,
  setPatch,
  type Link as LinkRow,
  type Measurement,
} from "#core/plan";
import { getFormProps, getInputProps, useForm } from "@conform-to/react";
import { parseWithZod } from "@conform-to/zod/v4";
import { format, parseISO } from "date-fns";
import { data, Form, Link, redirect, useNavigation } from "react-router";
import { z } from "zod";
import { listed, plainFigure } from "#core/words";
import { requireLink } from "../requests/plan.server";
import { authorOf, signature } from "../access/author.server";
import { jobsSeen, requireSeen } from "../access/ownJobs.server";
import { keepOwn } from "../keep/keep.server";
import { Button, buttonClass, figure, ProofMark, TextField } from "../ui";
import { formOf } from "../requests/asked.server";
import { IperfForm } from "../stages/acceptance/IperfForm";
import type { Route } from "./+types/proof";

/** A number as written on a roof: decimal comma, printed minus, or nothing. */
const typed = (text: unknown) => (typeof text === "string" ? plainFigure(text) : text);
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
  levelA2Dbm: optional(level),
  levelA3Dbm: optional(level),
  levelB2Dbm: optional(level),
  levelB3Dbm: optional(level),
  noiseADbm: optional(level),
  noiseBDbm: optional(level),
  downMbps: optional(rate),
  upMbps: optional(rate),
  measuredBy: z.string().max(120).optional(),
  notes: z.string().max(4000).optional(),
});

export async function loader({ params, request, url }: Route.LoaderArgs) {
  const { store, link, answer, rows, world, revision } = await requireLink(params.planId, params.linkId);
  const seen = await jobsSeen(store, world);
  requireSeen(seen.link(link.id));
  const { a, b } = linkEnds(world, link);
  const readings = rows.measurements
    .filter((one) => one.linkId === link.id)
    .sort((x, y) => y.measuredAt.localeCompare(x.measuredAt));
  const editing = readings.find(({ id }) => id === url.searchParams.get("reading")) ?? null;
  return {
    planId: params.planId,
    canPlan: seen.all,
    revision,
    editing,
    plan: rows.plan,
    linkId: link.id,
    state: linkStates(world).get(link.id) ?? "planned",
    names: [a.placeName, b.placeName] as const,
    chains: commonChains(a, b),
    expected: answer.path
      ? {
          a: expectedAt(answer.path.bToA),
          b: expectedAt(answer.path.aToB),
          downMbps: answer.path.aToB.rateMbps,
          upMbps: answer.path.bToA.rateMbps,
        }
      : null,
    who: signature(request),
    readings: readings.map((reading) => ({
      reading,
      verdict: judge(rows.plan, a, b, reading),
      changed: criteriaChanged(rows.plan, reading),
    })),
  };
}

/** What one end should read: on each chain, and all together. */
function expectedAt(tape: Tape) {
  return {
    chainDbm: tape.chainLevelDbm,
    chain: chainWords(tape),
    totalDbm: tape.totalLevelDbm,
    noiseDbm: tape.noiseDbm,
  };
}

export async function action({ params, request }: Route.ActionArgs) {
  const { store, link, answer, rows, world, revision } = await requireLink(params.planId, params.linkId);
  const seen = await jobsSeen(store, world);
  requireSeen(seen.link(link.id));
  const { a, b } = linkEnds(world, link);
  const form = await formOf(request);
  const readings = rows.measurements.filter((one) => one.linkId === link.id);
  const known = readings.find(({ id }) => id === form.get("readingId"));
  const name = `${a.placeName} – ${b.placeName}`;
  /** The revision that the form was filled in over. */
  const base = Number(form.get("base") ?? revision) || revision;
  /** The link's state by the newest of some readings. */
  const stateBy = (some: readonly Measurement[]): LinkRow["state"] => {
    const newest = [...some].sort((x, y) => y.measuredAt.localeCompare(x.measuredAt))[0];
    return newest ? judge(rows.plan, a, b, newest).state : "planned";
  };
  if (form.get("intent") === "remove") {
    if (!known) throw data("That reading is not there any more.", { status: 404 });
    const state = stateBy(readings.filter(({ id }) => id !== known.id));
    const answered = await keepOwn(store, params.planId, authorOf(request), {
      what: `Reading of ${known.measuredAt.slice(0, 10)} on ${name} taken out; ${state} now`,
      patches: [removePatch("measurements", known.id), setPatch("links", link.id, { state })],
      base,
    });
    if (!answered.ok) throw data(answered.message, { status: answered.status });
    return redirect(`/plans/${encodeURIComponent(params.planId)}/links/${encodeURIComponent(link.id)}/proof`);
  }
  if (form.get("intent") === "job") {
    if (!seen.all) throw data("Jobs are made at the desk.", { status: 403 });
    const cause = known && judge(rows.plan, a, b, known).causes.find(({ kind }) => kind === form.get("cause"));
    if (!cause) throw data("That cause does not stand there any more.", { status: 404 });
    const visit = mendVisit(world, link, randomUUID(), `${cause.title}: ${cause.reason}. ${cause.next}`);
    const answered = await keepOwn(store, params.planId, authorOf(request), {
      what: `Job on ${name}: ${cause.title}`,
      patches: [putPatch("visits", visit)],
      base,
    });
    if (!answered.ok) throw data(answered.message, { status: answered.status });
    return redirect(`/plans/${encodeURIComponent(params.planId)}/install`);
  }
  const submission = parseWithZod(form, { schema: readingSchema });
  if (submission.status !== "success") return data(submission.reply(), { status: 400 });
  if (!answer.path)
    return data(
      submission.reply({ formErrors: ["This path has no prediction to be held against; see it under Paths."] }),
      { status: 409 },
    );
  const { value } = submission;
  const orNull = <T,>(one: T | undefined) => one ?? null;
  // A reading that is corrected keeps when it was taken and what it was held against.
  const promised = known ?? {
    id: randomUUID(),
    measuredAt: new Date().toISOString(),
    ...promisedBy(rows.plan, answer.path),
  };
  const measurement: Measurement = measurementSchema.parse({
    ...promised,
    planId: params.planId,
    linkId: link.id,
    measuredBy: value.measuredBy?.trim() || signature(request),
    levelA0Dbm: value.levelA0Dbm,
    levelA1Dbm: orNull(value.levelA1Dbm),
    levelB0Dbm: value.levelB0Dbm,
    levelB1Dbm: orNull(value.levelB1Dbm),
    levelA2Dbm: orNull(value.levelA2Dbm),
    levelA3Dbm: orNull(value.levelA3Dbm),
    levelB2Dbm: orNull(value.levelB2Dbm),
    levelB3Dbm: orNull(value.levelB3Dbm),
    noiseADbm: orNull(value.noiseADbm),
    noiseBDbm: orNull(value.noiseBDbm),
    downMbps: orNull(value.downMbps),
    upMbps: orNull(value.upMbps),
    notes: value.notes ?? "",
  });
  const state = stateBy([...readings.filter(({ id }) => id !== measurement.id), measurement]);
  const reading = patchBetween("measurements", known, measurement);
  const answered = await keepOwn(
    store,
    params.planId,
    { ...authorOf(request), who: measurement.measuredBy },
    {
      what: known
        ? `Reading of ${known.measuredAt.slice(0, 10)} on ${name} corrected: ${state}`
        : `Reading on ${name}: ${state}`,
      patches: [...(reading ? [reading] : []), setPatch("links", link.id, { state })],
      base,
    },
  );
  if (!answered.ok) return data(submission.reply({ formErrors: [answered.message] }), { status: answered.status });
  if (known) return redirect(`/plans/${encodeURIComponent(params.planId)}/links/${encodeURIComponent(link.id)}/proof`);
  return data(submission.reply({ resetForm: true }));
}

function VerdictView({
  verdict,
  reading,
  changed,
  names,
  canPlan,
}: {
  verdict: Verdict;
  /** By which other criteria it was judged when it was taken, in words; null where they are today's. */
  changed: string | null;
  reading: Measurement;
  names: readonly string[];
  /** Whether whoever looks may make jobs. */
  canPlan: boolean;
}) {
  const chains = (side: "a" | "b") => listed(chainLevels(reading, side).map((dbm) => figure(dbm)));
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
      <p className="mt-1 text-sm text-quiet">
        On each chain <span className="figures">{chains("a")}</span> dBm at {names[0]},{" "}
        <span className="figures">{chains("b")}</span> dBm at {names[1]}
      </p>
      {changed && <p className="mt-1 text-sm font-semibold text-tight">{changed}</p>}
      <ul className="mt-1 text-sm">
        {schoolsOf(verdict).map(([school, found]) => (
          <li key={school}>
            {found.passed ? "✓" : "✕"} <strong>{school}:</strong> {found.text}
          </li>
        ))}
      </ul>
      {verdict.causes.length > 0 && (
        <div className="mt-2 text-sm">
          <h4 className="font-semibold">What it looks like</h4>
          <ol className="space-y-1">
            {verdict.causes.map((cause) => (
              <li key={cause.kind}>
                <strong>{cause.title}.</strong> {cause.reason}. {cause.next}
                {canPlan && (
                  <Form method="post">
                    <input type="hidden" name="readingId" value={reading.id} />
                    <input type="hidden" name="cause" value={cause.kind} />
                    <Button type="submit" name="intent" value="job" className="min-h-11">
                      Make a job of it
                    </Button>
                  </Form>
                )}
              </li>
            ))}
          </ol>
        </div>
      )}
      {reading.notes && <p className="mt-1 text-sm text-quiet">{reading.notes}</p>}
      <Form method="post" className="mt-2 flex gap-2">
        <Link to={`?reading=${encodeURIComponent(reading.id)}#reading`} className={`${buttonClass()} min-h-11`}>
          Correct
        </Link>
        <input type="hidden" name="readingId" value={reading.id} />
        <Button type="submit" name="intent" value="remove" className="min-h-11">
          Take out
        </Button>
      </Form>
    </article>
  );
}

/** A kept reading as the form's fields hold it. */
function fieldsOf(reading: Measurement): Record<string, string> {
  const text = (value: number | null) => (value === null ? "" : figure(value));
  const { levelA0Dbm, levelA1Dbm, levelA2Dbm, levelA3Dbm, levelB0Dbm, levelB1Dbm, levelB2Dbm, levelB3Dbm } = reading;
  const levels = { levelA0Dbm, levelA1Dbm, levelA2Dbm, levelA3Dbm, levelB0Dbm, levelB1Dbm, levelB2Dbm, levelB3Dbm };
  const { noiseADbm, noiseBDbm, downMbps, upMbps } = reading;
  const figures = { ...levels, noiseADbm, noiseBDbm, downMbps, upMbps };
  return Object.fromEntries(Object.entries(figures).map(([name, value]) => [name, text(value)]));
}

/** What was measured, held against what was promised. */
export default function ProofRoute({ loaderData, actionData }: Route.ComponentProps) {
  const { planId, linkId, names, expected, chains, readings, plan, editing, canPlan } = loaderData;
  const busy = useNavigation().state !== "idle";
  const [form, fields] = useForm<z.infer<typeof readingSchema>>({
    id: `reading-${editing?.id ?? readings.length}`,
    ...(actionData ? { lastResult: actionData } : {}),
    ...(editing ? { defaultValue: fieldsOf(editing) } : {}),
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
  const end = (name: string, should: ReturnType<typeof expectedAt> | undefined, boxes: React.ReactNode) => (
    <fieldset className="rounded border border-rule bg-panel p-3">
      <legend className="px-1 font-semibold">Received at {name}</legend>
      {should && (
        <p className="mb-1 text-sm text-quiet">
          Expected <span className="figures">{figure(should.chainDbm)} dBm</span> on {should.chain}, ±
          {plan.proofDeviationDb} dB (<span className="figures">{figure(should.totalDbm)}</span> all chains together),
          noise <span className="figures">{figure(should.noiseDbm, 0)} dBm</span> on one chain
        </p>
      )}
      <div className="grid grid-cols-2 gap-3">{boxes}</div>
    </fieldset>
  );
  return (
    <main className="mx-auto max-w-xl px-4 py-3">
      <title>{`${names.join(" – ")} – proof`}</title>
      <p className="flex justify-between text-sm">
        <Link to={`/plans/${planId}/acceptance?sel=link:${linkId}`} className="text-clay underline">
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
          {readings.map(({ reading, verdict, changed }) => (
            <VerdictView key={reading.id} {...{ reading, verdict, changed, names, canPlan }} />
          ))}
        </section>
      )}
      <h2 id="reading" className="mb-2 text-lg font-semibold">
        {editing
          ? `The reading of ${format(parseISO(editing.measuredAt), "d MMM yyyy, HH:mm")}, corrected`
          : "A new reading"}
      </h2>
      {editing && (
        <p className="mb-2 text-sm">
          It keeps its date and what it was held against.{" "}
          <Link to="." className="text-clay underline">
            Leave it as it is
          </Link>
        </p>
      )}
      {!expected && (
        <p role="alert" className="text-sm text-blocked">
          This path has no prediction, so a reading cannot be judged yet.
        </p>
      )}
      <Form method="post" {...getFormProps(form)} className="space-y-3">
        {editing && <input type="hidden" name="readingId" value={editing.id} />}
        <input type="hidden" name="base" value={loaderData.revision} />
        {form.errors && (
          <p role="alert" className="text-sm font-medium text-blocked">
            {form.errors.join(" ")}
          </p>
        )}
        {end(
          names[0],
          expected?.a,
          <>
            {box(fields.levelA0Dbm, chains > 1 ? "First chain" : "Level", "dBm")}
            {chains > 1 && box(fields.levelA1Dbm, "Second chain", "dBm")}
            {chains > 2 && box(fields.levelA2Dbm, "Third chain", "dBm")}
            {chains > 3 && box(fields.levelA3Dbm, "Fourth chain", "dBm")}
            {box(fields.noiseADbm, "Noise", "dBm")}
          </>,
        )}
        {end(
          names[1],
          expected?.b,
          <>
            {box(fields.levelB0Dbm, chains > 1 ? "First chain" : "Level", "dBm")}
            {chains > 1 && box(fields.levelB1Dbm, "Second chain", "dBm")}
            {chains > 2 && box(fields.levelB2Dbm, "Third chain", "dBm")}
            {chains > 3 && box(fields.levelB3Dbm, "Fourth chain", "dBm")}
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
          <IperfForm
            names={names}
            onFound={({ downMbps, upMbps }) => {
              if (downMbps !== null) form.update({ name: fields.downMbps.name, value: figure(downMbps) });
              if (upMbps !== null) form.update({ name: fields.upMbps.name, value: figure(upMbps) });
            }}
          />
        </fieldset>
        <TextField
          label="Measured by"
          name={fields.measuredBy.name}
          defaultValue={editing?.measuredBy ?? loaderData.who}
          className="min-h-11"
        />
        <TextField
          label="Notes"
          name={fields.notes.name}
          defaultValue={editing?.notes ?? ""}
          placeholder="Wind, leaves, what was odd"
          className="min-h-11"
        />
        <button
          type="submit"
          disabled={busy || !expected}
          className="min-h-13 w-full rounded bg-clay font-semibold text-on-clay disabled:opacity-50"
        >
          {busy ? "Saving…" : editing ? "Judge again and keep" : "Judge and keep"}
        </button>
      </Form>
    </main>
  );
}
