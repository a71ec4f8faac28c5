import type { Place } from "#core/geodesy";
import { bareSchema, fieldOf, setPatch, type RowKind, type RowKinds } from "#core/plan";
import { parsePosition } from "#formats/places";
import { z } from "zod";
import { useEffect, useId, useRef, useState, type ReactNode } from "react";
import { NumberField, useFormats } from "../ui";
import { FieldConflict } from "./ConflictPanel";
import { useDesk } from "../desk/DeskContext";

const BOX = "w-full rounded border border-rule bg-panel px-2 py-1 text-sm aria-invalid:border-blocked";

/** Whose field is edited. */
interface Of<K extends RowKind> {
  kind: K;
  id: string;
}

/** Puts fields of one thing into the change in hand. */
export function useSet<K extends RowKind>({ kind, id }: Of<K>): (set: Partial<RowKinds[K]>) => void {
  const { draft } = useDesk();
  return (set) => draft.put([setPatch(kind, id, set)]);
}

function Labelled({
  id,
  label,
  wide = false,
  error,
  children,
}: {
  id: string;
  label: string;
  wide?: boolean;
  error?: string | null;
  children: ReactNode;
}) {
  return (
    <div className={wide ? "col-span-2" : ""}>
      <label htmlFor={id} className="mb-0.5 block text-xs text-quiet">
        {label}
      </label>
      {children}
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-0.5 text-xs font-medium text-blocked">
          {error}
        </p>
      )}
    </div>
  );
}

interface Control {
  label: string;
  help: string | undefined;
  onSet: (value: unknown) => void;
}

/** Text that is taken as it is typed. An empty one that must not be stays in its box with its reason. */
function TextControl({
  label,
  help,
  value,
  schema,
  lines = 1,
  onSet,
}: Control & { value: string; schema: z.ZodString; lines?: number | undefined }) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? value;
  const isRequired = !schema.safeParse("").success;
  const error = isRequired && shown.trim() === "" ? `${label} must not be empty` : null;
  const shared = {
    id,
    value: shown,
    maxLength: schema.maxLength ?? undefined,
    title: help,
    "aria-invalid": error ? true : undefined,
    "aria-describedby": error ? `${id}-error` : undefined,
    onBlur: () => error === null && setTyped(null),
    className: BOX,
  };
  const onType = (text: string) => {
    setTyped(text);
    if (!isRequired || text.trim() !== "") onSet(isRequired ? text.trim() : text);
  };
  return (
    <Labelled id={id} label={label} wide error={error}>
      {lines > 1 ? (
        <textarea {...shared} rows={lines} onChange={(event) => onType(event.target.value)} />
      ) : (
        <input {...shared} onChange={(event) => onType(event.target.value)} />
      )}
    </Labelled>
  );
}

type Choice = readonly [value: string | boolean | number | null, word: string];
const YES_NO: readonly Choice[] = [
  [false, "no"],
  [true, "yes"],
];

/** One of a few words. */
function ChoiceControl({
  label,
  help,
  value,
  choices,
  onSet,
}: Control & { value: Choice[0]; choices: readonly Choice[] }) {
  const id = useId();
  return (
    <Labelled id={id} label={label}>
      <select
        id={id}
        value={String(value)}
        title={help}
        className={BOX}
        onChange={({ target }) => onSet(choices.find(([one]) => String(one) === target.value)![0])}
      >
        {choices.map(([one, word]) => (
          <option key={String(one)} value={String(one)}>
            {word}
          </option>
        ))}
      </select>
    </Labelled>
  );
}

/**
 * The control of one field, made from what its kind declares: label, unit, step, bounds and choices. `choices` are given where they
 * depend on the plan, `label` and `bounds` where the thing at hand narrows them; `onSet` where more than the field follows.
 */
export function FieldEdit<K extends RowKind>({
  kind,
  row,
  field,
  label,
  choices,
  value: shown,
  bounds,
  onSet,
}: {
  kind: K;
  row: { id: string };
  field: keyof RowKinds[K] & string;
  label?: string;
  choices?: readonly Choice[];
  /** Shown in place of what the row says. */
  value?: string | number;
  bounds?: { min?: number; max?: number; step?: number };
  onSet?: (value: unknown) => void;
}) {
  const of = { kind, id: row.id };
  const set = useSet(of);
  const { schema, facts } = fieldOf(kind, field)!;
  const bare = bareSchema(schema);
  const value = shown ?? (row as unknown as Record<string, unknown>)[field];
  const { unit = "", step = 1, decimals = 2, lines, words, help } = facts;
  const control: Control = {
    label: label ?? facts.label,
    help,
    onSet: onSet ?? ((next) => set({ [field]: next } as Partial<RowKinds[K]>)),
  };
  const offered =
    choices ??
    (bare instanceof z.ZodBoolean
      ? YES_NO
      : bare instanceof z.ZodEnum
        ? bare.options.map((one): Choice => [one, words?.[one] ?? String(one)])
        : null);
  return (
    <>
      {offered ? (
        <ChoiceControl {...control} value={value as Choice[0]} choices={offered} />
      ) : bare instanceof z.ZodNumber ? (
        <NumberField
          label={control.label}
          value={value as number}
          unit={unit}
          step={bounds?.step ?? step}
          min={bounds?.min ?? bare.minValue!}
          max={bounds?.max ?? bare.maxValue!}
          decimals={decimals}
          onChange={control.onSet}
        />
      ) : (
        <TextControl {...control} value={value as string} schema={bare as z.ZodString} lines={lines} />
      )}
      <FieldConflict {...of} field={field} />
    </>
  );
}

/** The controls of some fields of one thing, in order. */
export function FieldsEdit<K extends RowKind>({
  kind,
  row,
  fields,
}: {
  kind: K;
  row: { id: string };
  fields: readonly (keyof RowKinds[K] & string)[];
}) {
  return fields.map((field) => <FieldEdit key={field} kind={kind} row={row} field={field} />);
}

/** A place by its coordinates, in any notation. */
export function PlaceEdit({ of, place }: { of: Of<"sites"> | Of<"subscribers">; place: Place }) {
  const set = useSet(of as Of<"sites">);
  const formats = useFormats();
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? formats.place(place);
  const error = typed !== null && !parsePosition(typed) ? `"${typed}" is no latitude and longitude` : null;
  const last = useRef(place);
  useEffect(() => {
    // A place that came from elsewhere (a drag, undo) replaces what was typed.
    if (last.current.latDeg !== place.latDeg || last.current.lonDeg !== place.lonDeg) setTyped(null);
    last.current = place;
  }, [place]);
  return (
    <>
      <Labelled id={id} label="Coordinates, in any notation" wide error={error}>
        <input
          id={id}
          value={shown}
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? `${id}-error` : undefined}
          className={`figures ${BOX}`}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || typed === null) return;
            // The first Enter takes the place in hand, the next keeps it.
            event.stopPropagation();
            event.nativeEvent.stopImmediatePropagation();
            event.currentTarget.blur();
            event.currentTarget.focus();
          }}
          onBlur={() => {
            const parsed = typed === null ? null : parsePosition(typed);
            if (!parsed) return;
            last.current = parsed;
            set({ latDeg: parsed.latDeg, lonDeg: parsed.lonDeg });
            setTyped(null);
          }}
        />
      </Labelled>
      <FieldConflict {...of} field="latDeg" />
      <FieldConflict {...of} field="lonDeg" />
    </>
  );
}
