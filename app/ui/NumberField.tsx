import { useEffect, useId, useRef, useState, type KeyboardEvent } from "react";
import { plainFigure } from "#core/words";

/** Reads what a person types for a number: decimal comma and the printed minus are understood. */
function parse(text: string): number | null {
  const cleaned = plainFigure(text);
  if (cleaned === "" || !/^[+-]?\d*\.?\d+$|^[+-]?\d+\.$/.test(cleaned)) return null;
  return Number(cleaned);
}

/**
 * A number that takes effect as it is typed and can be nudged: arrows by `step`, with Shift by ten. What is out of
 * bounds stays in the box with its reason, and nothing else changes.
 */
export function NumberField({
  label,
  value,
  onChange,
  step,
  min,
  max,
  unit,
  decimals = 1,
  disabled,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
  step: number;
  min: number;
  max: number;
  unit: string;
  decimals?: number;
  disabled?: boolean;
}) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const lastSent = useRef(value);
  useEffect(() => {
    // A value that came from elsewhere (a drag, a remedy, undo) replaces what was typed.
    if (value !== lastSent.current) {
      lastSent.current = value;
      setTyped(null);
    }
  }, [value]);

  const shown = typed ?? String(Number(value.toFixed(decimals)));
  const parsed = parse(shown);
  const error =
    parsed === null
      ? `"${shown}" is not a number`
      : parsed < min || parsed > max
        ? `${shown} ${unit} is outside ${Number(min.toFixed(2))} to ${Number(max.toFixed(2))} ${unit}`
        : null;

  const send = (next: number) => {
    lastSent.current = next;
    onChange(next);
  };
  const onType = (text: string) => {
    setTyped(text);
    const next = parse(text);
    if (next !== null && next >= min && next <= max) send(next);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "ArrowUp" && event.key !== "ArrowDown") return;
    event.preventDefault();
    const by = (event.key === "ArrowUp" ? 1 : -1) * step * (event.shiftKey ? 10 : 1);
    const next = Math.min(max, Math.max(min, Math.round((value + by) / step) * step));
    setTyped(null);
    send(Number(next.toFixed(6)));
  };
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-xs text-quiet">
        {label}
      </label>
      <div className="flex items-center gap-1.5">
        <input
          id={id}
          inputMode="decimal"
          value={shown}
          disabled={disabled}
          onChange={(event) => onType(event.target.value)}
          onKeyDown={onKeyDown}
          onBlur={() => error === null && setTyped(null)}
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? `${id}-error` : undefined}
          className="figures w-full min-w-0 rounded border border-rule bg-panel px-2 py-1 text-right text-sm disabled:opacity-60 aria-invalid:border-blocked"
        />
        <span className="w-9 shrink-0 text-xs text-quiet">{unit}</span>
      </div>
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-0.5 text-xs font-medium text-blocked">
          {error}
        </p>
      )}
    </div>
  );
}
