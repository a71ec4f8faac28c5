import type { Place } from "#core/geodesy";
import { setPatch, type RowKind, type RowKinds } from "#core/plan";
import { parsePosition } from "#formats/places";
import { useEffect, useId, useRef, useState, type ReactNode } from "react";
import { NumberField, useFormats } from "../ui";
import { FieldConflict } from "./ConflictPanel";
import { useDesk } from "./DeskContext";

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

/** Text that is taken as it is typed. An empty one that must not be stays in its box with its reason. */
export function TextEdit<K extends RowKind>({
  of,
  field,
  label,
  value,
  isRequired = false,
  rows = 1,
  most,
}: {
  of: Of<K>;
  field: keyof RowKinds[K] & string;
  label: string;
  value: string;
  isRequired?: boolean;
  rows?: number;
  most: number;
}) {
  const set = useSet(of);
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? value;
  const error = isRequired && shown.trim() === "" ? `${label} must not be empty` : null;
  const shared = {
    id,
    value: shown,
    maxLength: most,
    "aria-invalid": error ? true : undefined,
    "aria-describedby": error ? `${id}-error` : undefined,
    onBlur: () => error === null && setTyped(null),
    className: BOX,
  };
  const onType = (text: string) => {
    setTyped(text);
    if (!isRequired || text.trim() !== "") set({ [field]: isRequired ? text.trim() : text } as Partial<RowKinds[K]>);
  };
  return (
    <>
      <Labelled id={id} label={label} wide error={error}>
        {rows > 1 ? (
          <textarea {...shared} rows={rows} onChange={(event) => onType(event.target.value)} />
        ) : (
          <input {...shared} onChange={(event) => onType(event.target.value)} />
        )}
      </Labelled>
      <FieldConflict {...of} field={field} />
    </>
  );
}

/** One of a few words. */
export function ChoiceEdit<K extends RowKind>({
  of,
  field,
  label,
  value,
  choices,
}: {
  of: Of<K>;
  field: keyof RowKinds[K] & string;
  label: string;
  value: string | boolean | number | null;
  choices: readonly (readonly [value: string | boolean | number | null, word: string])[];
}) {
  const set = useSet(of);
  const id = useId();
  return (
    <>
      <Labelled id={id} label={label}>
        <select
          id={id}
          value={String(value)}
          className={BOX}
          onChange={({ target }) => {
            const chosen = choices.find(([one]) => String(one) === target.value)!;
            set({ [field]: chosen[0] } as Partial<RowKinds[K]>);
          }}
        >
          {choices.map(([one, word]) => (
            <option key={String(one)} value={String(one)}>
              {word}
            </option>
          ))}
        </select>
      </Labelled>
      <FieldConflict {...of} field={field} />
    </>
  );
}

/** A number within its bounds. */
export function FigureEdit<K extends RowKind>({
  of,
  field,
  label,
  value,
  unit = "",
  step = 1,
  min = 0,
  max,
  decimals = 0,
}: {
  of: Of<K>;
  field: keyof RowKinds[K] & string;
  label: string;
  value: number;
  unit?: string;
  step?: number;
  min?: number;
  max: number;
  decimals?: number;
}) {
  const set = useSet(of);
  return (
    <>
      <NumberField
        label={label}
        value={value}
        unit={unit}
        step={step}
        min={min}
        max={max}
        decimals={decimals}
        onChange={(next) => set({ [field]: next } as Partial<RowKinds[K]>)}
      />
      <FieldConflict {...of} field={field} />
    </>
  );
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
