import { z } from "zod";
import { KINDS, ROW_KINDS, type Effect, type FieldFacts, type Reference, type RowKind, type RowKinds } from "./kinds";
import { FIELD_FACTS, type KindDeclaration } from "./kinds/field";

type Row = Record<string, unknown>;

/** What every row of a kind must satisfy. */
export const ROW_SCHEMAS = Object.fromEntries(ROW_KINDS.map((kind) => [kind, KINDS[kind].schema])) as {
  [K in RowKind]: (typeof KINDS)[K]["schema"];
};

/** A kind's declaration, as of any kind. */
export const declared = (kind: RowKind): KindDeclaration => KINDS[kind];

/** Every field of a kind with its schema and what is said of it, in the order of its table. */
export function fieldsOf(kind: RowKind): readonly { name: string; schema: z.ZodType; facts: FieldFacts }[] {
  return FIELDS[kind];
}
const FIELDS = Object.fromEntries(
  ROW_KINDS.map((kind) => [
    kind,
    Object.entries(declared(kind).shape).map(([name, schema]) => ({
      name,
      schema,
      facts: FIELD_FACTS.get(schema) ?? { label: name },
    })),
  ]),
) as unknown as Record<RowKind, { name: string; schema: z.ZodType; facts: FieldFacts }[]>;
const BY_NAME = new Map(ROW_KINDS.map((kind) => [kind, new Map(FIELDS[kind].map((one) => [one.name, one]))]));

/** One field of a kind; undefined where it has none of that name. */
export const fieldOf = (kind: RowKind, name: string) => BY_NAME.get(kind)!.get(name);

/** Fields that name a row or that Tejado sets when it makes one: no change sets them. */
const FIXED = Object.fromEntries(
  ROW_KINDS.map((kind) => [
    kind,
    new Set(FIELDS[kind].filter(({ facts }) => facts.setBy === "tejado").map(({ name }) => name)),
  ]),
) as unknown as Record<RowKind, ReadonlySet<string>>;
export const isFixed = (kind: RowKind, name: string) => FIXED[kind].has(name);

/** A schema without what only says that a value may be left out or be none. */
export function bareSchema(schema: z.ZodType): z.ZodType {
  let bare = schema;
  while (bare instanceof z.ZodDefault || bare instanceof z.ZodNullable) bare = bare.unwrap() as z.ZodType;
  return bare;
}

type Optional<T> = { [K in keyof T]-?: undefined extends T[K] ? K : never }[keyof T];
/** The fields of a kind that a new row need not say. */
type Usual<K extends RowKind> = Pick<RowKinds[K], Optional<z.input<(typeof KINDS)[K]["schema"]>> & keyof RowKinds[K]>;

/** Returns the default of every field that a new row may leave out. */
function usualOf<K extends RowKind>(kind: K): Usual<K> {
  const given = FIELDS[kind].flatMap(({ name, schema }) =>
    schema instanceof z.ZodDefault ? [[name, schema.parse(undefined)] as const] : [],
  );
  return Object.fromEntries(given) as unknown as Usual<K>;
}

/** Defaults by kind, to be spread into new rows. */
export const USUAL = Object.fromEntries(ROW_KINDS.map((kind) => [kind, usualOf(kind)])) as unknown as {
  [K in RowKind]: Usual<K>;
};

/** Returns the values that a new row starts with, until a survey or a person changes them. */
export function startOf(kind: RowKind): Row {
  const start = FIELDS[kind].flatMap(({ name, facts }) => ("start" in facts ? [[name, facts.start] as const] : []));
  return { ...USUAL[kind], ...Object.fromEntries(start) };
}

/** What rows of a kind lack that were written under an earlier schema of the database: the fields that came since, with what they say of then. */
export function lackedBefore(kind: RowKind, schema: number): Row {
  return Object.fromEntries(
    FIELDS[kind].flatMap(({ name, schema: own, facts }) => {
      if (facts.since === undefined || facts.since <= schema) return [];
      if ("before" in facts) return [[name, facts.before]];
      return own instanceof z.ZodDefault ? [[name, own.parse(undefined)]] : [];
    }),
  );
}

/** Which fields of a kind a change of has some effect. */
export function fieldsWith(kind: RowKind, effect: Effect): ReadonlySet<string> {
  return new Set(FIELDS[kind].filter(({ facts }) => facts.affects?.includes(effect)).map(({ name }) => name));
}

/** Fields of a kind of which nothing at all is worked out: words that people write for each other. */
export function silentFields(kind: RowKind): ReadonlySet<string> {
  return new Set(FIELDS[kind].filter(({ facts }) => facts.affects?.length === 0).map(({ name }) => name));
}

/** A field that points at rows. */
export interface ReferenceField {
  kind: RowKind;
  name: string;
  isList: boolean;
  facts: Reference;
  /** Kinds that it may point at. */
  targets: readonly RowKind[];
}

/** Every field that points at rows, by the kind that it stands in. */
export const REFERENCES = Object.fromEntries(
  ROW_KINDS.map((kind) => [
    kind,
    FIELDS[kind].flatMap(({ name, schema, facts: { refersTo } }): ReferenceField[] => {
      if (!refersTo) return [];
      const { to } = refersTo;
      const targets = (typeof to === "string" ? [to] : Object.values(to.kinds)) as RowKind[];
      return [{ kind, name, isList: bareSchema(schema) instanceof z.ZodArray, facts: refersTo, targets }];
    }),
  ]),
) as unknown as Record<RowKind, readonly ReferenceField[]>;

/** The rows that one field of a row points at. */
export function pointedAt(
  { name, facts: { to } }: ReferenceField,
  row: object,
): { kind: RowKind; ids: readonly string[] } {
  const value = (row as Row)[name];
  const kind = (typeof to === "string" ? to : to.kinds[String((row as Row)[to.field])]) as RowKind;
  const ids = (Array.isArray(value) ? value : [value]).filter((id): id is string => typeof id === "string");
  return { kind, ids };
}

const lower = (text: string) => (/^.[a-z]/.test(text) ? text[0]!.toLowerCase() + text.slice(1) : text);

/** A field's name within a sentence: "structureHeightM" of a site is "height". */
export function fieldWord(kind: RowKind, name: string): string {
  const facts = fieldOf(kind, name)?.facts;
  return facts ? (facts.short ?? lower(facts.label)) : name;
}

/** A value of a field in words: a choice by its word, a figure with its minus sign, nothing as none. */
export function valueWord(kind: RowKind, name: string, value: unknown): string {
  if (value === null || value === undefined || value === "") return "none";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return String(value).replace("-", "−");
  if (typeof value === "string") return fieldOf(kind, name)?.facts.words?.[value] ?? value;
  const text = JSON.stringify(value);
  return text.length > LONGEST_VALUE ? `${text.slice(0, LONGEST_VALUE)}…` : text;
}
const LONGEST_VALUE = 60;

/** Schema of a kind's rows as JSON Schema, with each field's label, unit and help. */
export function jsonSchemaOf(kind: RowKind): object {
  return z.toJSONSchema(ROW_SCHEMAS[kind], {
    io: "input",
    unrepresentable: "any",
    override: ({ zodSchema, jsonSchema }) => {
      const facts = FIELD_FACTS.get(zodSchema as unknown as z.ZodType);
      if (!facts) return;
      jsonSchema.title = facts.label;
      const description = [facts.unit && `In ${facts.unit}.`, facts.help].filter(Boolean).join(" ");
      if (description) jsonSchema.description = description;
    },
  });
}
