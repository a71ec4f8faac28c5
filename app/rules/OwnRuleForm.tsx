import { FLAG_WORDS, LICENCE_WORDS, LICENCES, RULE_FLAGS, ruleSchema, type Rule } from "#core/regulation";
import { plainFigure } from "#core/words";
import { getFormProps, parse, useForm, type FieldMetadata, type Submission } from "@conform-to/react";
import { boundText, Button, FormSelect, FormText } from "../ui";

type Typed = Record<string, string>;
const EIRP_KINDS: Record<Rule["eirp"]["kind"], string> = {
  fixed: "one cap",
  gainForPower: "conducted power falls with gain",
  lessUnderGain: "cap falls under a gain",
  national: "set by a licence",
  byDensity: "by its density alone",
};
const EIRP_FIELDS: Record<Rule["eirp"]["kind"], [name: string, label: string, unit: string][]> = {
  fixed: [["dbm", "EIRP at most", "dBm"]],
  gainForPower: [
    ["conductedDbm", "Conducted at most", "dBm"],
    ["freeGainDbi", "Gain free up to", "dBi"],
    ["dbPerDbi", "Less power per dBi over it", "dB"],
  ],
  lessUnderGain: [
    ["dbm", "EIRP at most", "dBm"],
    ["fullGainDbi", "From a gain of", "dBi"],
    ["dbPerDbi", "Less per dBi under it", "dB"],
    ["leastGainDbi", "Least gain", "dBi"],
    ["otherwiseDbm", "EIRP under the least gain", "dBm"],
  ],
  national: [],
  byDensity: [],
};

const text = (value: number | null | undefined) => (value === null || value === undefined ? "" : String(value));
function typedOf(rule: Rule): Typed {
  const typed: Typed = {
    low: text(rule.bandMHz[0]),
    high: text(rule.bandMHz[1]),
    use: rule.use,
    source: rule.source,
    licence: rule.licence,
    kind: rule.eirp.kind,
    conductedDbm: text(rule.conductedDbm),
    conductedByWidthDbm: text(rule.conductedByWidthDbm),
    eirpDensityDbm: text(rule.eirpDensity?.dbm),
    eirpDensityPer: text(rule.eirpDensity?.perMHz),
    conductedDensityDbm: text(rule.conductedDensity?.dbm),
    conductedDensityPer: text(rule.conductedDensity?.perMHz),
    conductedDensityFreeDbi: text(rule.conductedDensity?.freeGainDbi),
    above30DegDbm: text(rule.above30DegDbm),
    widthsMHz: rule.widthsMHz.join(", "),
    rasterMHz: text(rule.rasterMHz),
  };
  for (const [name, value] of Object.entries(rule.eirp))
    if (name !== "kind") typed[`eirp-${name}`] = text(value as number);
  return typed;
}

const number = (value: string | undefined) => Number(plainFigure(value ?? "") || NaN);
const optional = (value: string | undefined) => ((value ?? "").trim() === "" ? null : number(value));

function ruleOf(typed: Typed, flags: Rule["flags"]): unknown {
  const kind = typed.kind as Rule["eirp"]["kind"];
  const density = (dbm: string | undefined, per: string | undefined, freeDbi?: string) =>
    optional(dbm) === null
      ? null
      : { dbm: number(dbm), perMHz: optional(per) === null ? 1 : number(per), freeGainDbi: optional(freeDbi) };
  return {
    bandMHz: [number(typed.low), number(typed.high)],
    use: typed.use,
    source: typed.source?.trim() ?? "",
    licence: typed.licence,
    flags,
    eirp: {
      kind,
      ...Object.fromEntries(
        EIRP_FIELDS[kind].map(([name]) => [
          name,
          name === "otherwiseDbm" ? optional(typed[`eirp-${name}`]) : number(typed[`eirp-${name}`]),
        ]),
      ),
    },
    conductedDbm: optional(typed.conductedDbm),
    conductedByWidthDbm: optional(typed.conductedByWidthDbm),
    eirpDensity: density(typed.eirpDensityDbm, typed.eirpDensityPer),
    conductedDensity: density(typed.conductedDensityDbm, typed.conductedDensityPer, typed.conductedDensityFreeDbi),
    above30DegDbm: optional(typed.above30DegDbm),
    widthsMHz: (typed.widthsMHz ?? "")
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(number),
    rasterMHz: optional(typed.rasterMHz),
  };
}

/** The form's field of a fault of the schema. */
const FIELD_OF: Record<string, string> = { "bandMHz.0": "low", "bandMHz.1": "high", bandMHz: "high" };
function fieldOf(path: string): string {
  if (path.startsWith("widthsMHz")) return "widthsMHz";
  return (
    FIELD_OF[path] ??
    path
      .replace(/^eirp\./, "eirp-")
      .replace(/Density\.dbm$/, "DensityDbm")
      .replace(/Density\.perMHz$/, "DensityPer")
  );
}

/** The rule that a form holds, or what is wrong with each of its fields. */
function parseRule(formData: FormData): Submission<Rule, string[]> {
  return parse(formData, {
    resolve: (payload) => {
      const { flags = [], ...typed } = payload as Typed & { flags?: string | string[] };
      const parsed = ruleSchema.safeParse(ruleOf(typed, [flags].flat() as Rule["flags"]));
      if (parsed.success) return { value: parsed.data };
      const error: Record<string, string[]> = {};
      for (const issue of parsed.error.issues) {
        const name = fieldOf(issue.path.join("."));
        error[name] ??= [boundText(issue, typed[name] ?? "")];
      }
      return { error };
    },
  });
}

/** One rule of a plan's own to be written. */
export function OwnRuleForm({
  rule,
  onKeep,
  onLeave,
}: {
  rule: Rule;
  onKeep: (rule: Rule) => void;
  onLeave: () => void;
}) {
  const [form, fields] = useForm<Typed, Rule>({
    defaultValue: typedOf(rule),
    onValidate: ({ formData }) => parseRule(formData),
    shouldRevalidate: "onInput",
    onSubmit: (event, { formData }) => {
      event.preventDefault();
      const submission = parseRule(formData);
      if (submission.status === "success") onKeep(submission.value);
    },
  });
  const of = (name: string) => fields[name] as unknown as FieldMetadata<unknown>;
  const field = (name: string, label: string, unit?: string, hint?: string) => (
    <FormText key={name} field={of(name)} label={label} {...(unit ? { unit } : {})} {...(hint ? { hint } : {})} />
  );
  const select = (name: string, label: string, choices: Record<string, string>) => (
    <FormSelect field={of(name)} label={label}>
      {Object.entries(choices).map(([value, word]) => (
        <option key={value} value={value}>
          {word}
        </option>
      ))}
    </FormSelect>
  );
  const kind = (of("kind").value ?? rule.eirp.kind) as Rule["eirp"]["kind"];
  return (
    <form {...getFormProps(form)} className="rounded border border-rule bg-panel p-3">
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
        {field("low", "From", "MHz")}
        {field("high", "To", "MHz")}
        {select("use", "Use", { any: "any", ptp: "point to point", ptmp: "point to multipoint" })}
        {field("source", "Source: text and clause")}
        {select("kind", "EIRP", EIRP_KINDS)}
        {EIRP_FIELDS[kind].map(([name, label, unit]) => field(`eirp-${name}`, label, unit))}
        {field("conductedDbm", "Conducted at most", "dBm", "empty: no cap")}
        {field("conductedByWidthDbm", "or, + 10 log of the width", "dBm")}
        {field("eirpDensityDbm", "EIRP density", "dBm")}
        {field("eirpDensityPer", "for each", "MHz")}
        {field("conductedDensityDbm", "Conducted density", "dBm")}
        {field("conductedDensityPer", "for each", "MHz")}
        {field("conductedDensityFreeDbi", "falling with gain over", "dBi", "empty where it does not")}
        {field("above30DegDbm", "EIRP above 30°", "dBm")}
        {field("widthsMHz", "Widths", "MHz", "empty: the radio’s")}
        {field("rasterMHz", "Centres every", "MHz", "empty: free")}
        {select("licence", "Licence", LICENCE_WORDS)}
      </div>
      <div className="mt-2 flex flex-wrap gap-4 text-sm">
        {RULE_FLAGS.map((flag) => (
          <label key={flag} className="flex items-center gap-1.5">
            <input type="checkbox" name="flags" value={flag} defaultChecked={rule.flags.includes(flag)} />
            {FLAG_WORDS[flag]}
          </label>
        ))}
      </div>
      <div className="mt-3 flex gap-2">
        <Button type="submit" look="primary">
          Keep the rule
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </form>
  );
}

export const EMPTY_RULE: Rule = {
  bandMHz: [5150, 5850],
  use: "any",
  source: "",
  eirp: { kind: "fixed", dbm: 30 },
  conductedDbm: null,
  conductedByWidthDbm: null,
  conductedDensity: null,
  eirpDensity: null,
  above30DegDbm: null,
  widthsMHz: [],
  rasterMHz: null,
  licence: LICENCES[0],
  flags: [],
};
