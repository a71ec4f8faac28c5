import { Tooltip } from "radix-ui";
import {
  useId,
  type ButtonHTMLAttributes,
  type InputHTMLAttributes,
  type ReactNode,
  type SelectHTMLAttributes,
} from "react";

type ButtonLook = "plain" | "primary" | "quiet";

const LOOKS: Record<ButtonLook, string> = {
  plain: "border border-rule bg-panel hover:border-clay",
  primary: "border border-clay bg-clay text-on-clay hover:brightness-110",
  quiet: "border border-transparent hover:border-rule",
};

/** Class of a button, for links that look like one. */
export function buttonClass(look: ButtonLook = "plain"): string {
  return `inline-flex items-center justify-center gap-1.5 rounded px-2.5 py-1 text-sm whitespace-nowrap disabled:opacity-50 ${LOOKS[look]}`;
}

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: ButtonLook }) {
  return <button type="button" {...rest} className={`${buttonClass(look)} ${className}`} />;
}

const BOX = "w-full rounded border border-rule bg-panel px-2 py-1 text-sm aria-invalid:border-blocked";

interface Labelled {
  label: ReactNode;
  /** Unit shown after the box. */
  unit?: string;
  error?: string | undefined;
  hint?: string;
}

function Labelled({ id, label, unit, error, hint, children }: Labelled & { id: string; children: ReactNode }) {
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-xs text-quiet">
        {label}
      </label>
      <div className="flex items-center gap-1.5">
        {children}
        {unit && <span className="text-xs text-quiet">{unit}</span>}
      </div>
      {hint && !error && <p className="mt-0.5 text-xs text-quiet">{hint}</p>}
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-0.5 text-xs font-medium text-blocked">
          {error}
        </p>
      )}
    </div>
  );
}

export function TextField({
  label,
  unit,
  error,
  hint,
  className = "",
  ...rest
}: Labelled & InputHTMLAttributes<HTMLInputElement>) {
  const own = useId();
  const id = rest.id ?? own;
  return (
    <Labelled id={id} label={label} {...(unit ? { unit } : {})} error={error} {...(hint ? { hint } : {})}>
      <input
        {...rest}
        id={id}
        aria-invalid={error ? true : undefined}
        aria-describedby={error ? `${id}-error` : undefined}
        className={`${BOX} ${className}`}
      />
    </Labelled>
  );
}

export function SelectField({ label, error, children, ...rest }: Labelled & SelectHTMLAttributes<HTMLSelectElement>) {
  const own = useId();
  const id = rest.id ?? own;
  return (
    <Labelled id={id} label={label} error={error}>
      <select {...rest} id={id} className={BOX}>
        {children}
      </select>
    </Labelled>
  );
}

/** A term of the trade, explained on hover or focus. */
export function Term({ children, meaning }: { children: ReactNode; meaning: string }) {
  return (
    <Tooltip.Provider delayDuration={200}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>
          <span tabIndex={0} className="cursor-help underline decoration-dotted decoration-1 underline-offset-2">
            {children}
          </span>
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={4}
            className="z-50 max-w-64 rounded border border-rule bg-panel px-2 py-1 text-xs text-ink shadow"
          >
            {meaning}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
