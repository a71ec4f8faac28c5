import type { ButtonHTMLAttributes, InputHTMLAttributes, ReactNode } from "react";
import { useId } from "react";
import { isOthers } from "./send";
import { useField } from "./useField";

/** A button as large as a gloved thumb. */
export function Big({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: "plain" | "primary" | "stop" }) {
  const looks = {
    plain: "border-2 border-rule bg-panel",
    primary: "border-2 border-clay bg-clay text-on-clay",
    stop: "border-2 border-blocked bg-panel text-blocked",
  };
  return (
    <button
      type="button"
      {...rest}
      className={`inline-flex min-h-14 min-w-14 items-center justify-center rounded-lg px-4 py-2 text-base font-semibold disabled:opacity-50 ${looks[look]} ${className}`}
    />
  );
}

/** A box to type in: figures stand to the right, words (`isText`) to the left. */
export function Box({
  label,
  unit,
  isText = false,
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, "className"> & { label: string; unit?: string; isText?: boolean }) {
  const id = useId();
  return (
    <div className="min-w-0 flex-1">
      <label htmlFor={id} className="block text-sm font-semibold">
        {label}
        {unit && <span className="font-normal text-quiet"> {unit}</span>}
      </label>
      <input
        id={id}
        {...rest}
        className={`min-h-14 w-full rounded-lg border-2 border-rule bg-panel px-3 ${isText ? "" : "figures text-right text-xl"}`}
      />
    </div>
  );
}

/** One of a few, each as large as a thumb. */
export function OneOf<Value extends string>({
  label,
  options,
  chosen,
  onChoose,
}: {
  label: string;
  options: Readonly<Record<Value, string>>;
  chosen: Value;
  onChoose: (value: Value) => void;
}) {
  return (
    <div role="radiogroup" aria-label={label} className="mt-2 flex gap-2">
      {(Object.entries(options) as [Value, string][]).map(([value, words]) => (
        <Big
          key={value}
          role="radio"
          aria-checked={chosen === value}
          look={chosen === value ? "primary" : "plain"}
          className="flex-1 px-2"
          onClick={() => onChoose(value)}
        >
          {words}
        </Big>
      ))}
    </div>
  );
}

/** A file to be chosen, as large as a gloved thumb. */
export function FilePick({
  label,
  accept,
  isMany = false,
  capture,
  onPick,
}: {
  label: string;
  accept: string;
  isMany?: boolean;
  /** Which camera a phone opens for it. */
  capture?: "environment";
  onPick: (files: File[]) => void;
}) {
  return (
    <label className="relative mt-2 flex min-h-14 items-center justify-center rounded-lg border-2 border-rule bg-panel px-2 text-center font-semibold focus-within:outline-2 focus-within:outline-clay">
      {label}
      <input
        type="file"
        multiple={isMany}
        accept={accept}
        capture={capture}
        className="absolute inset-0 opacity-0"
        onChange={({ target }) => {
          if (target.files && target.files.length > 0) onPick([...target.files]);
          target.value = "";
        }}
      />
    </label>
  );
}

export function Fact({ label, children, note }: { label: string; children: ReactNode; note?: ReactNode }) {
  return (
    <div className="border-b border-rule py-1.5">
      <dt className="text-sm text-quiet">{label}</dt>
      <dd className="figures text-2xl leading-tight font-semibold">{children}</dd>
      {note && <dd className="text-sm text-quiet">{note}</dd>}
    </div>
  );
}

/** How many entries are only on this phone, always in sight. */
export function Unsent({ visitId }: { visitId?: string }) {
  const { entries, way, account, refusals } = useField();
  const mine = entries.filter((entry) => visitId === undefined || entry.visitId === visitId);
  const unsent = mine.filter(({ state }) => state === "waiting");
  const waiting = unsent.length;
  const stuck = unsent.filter((entry) => entry.planId in refusals || isOthers(entry, account)).length;
  const open = mine.filter(({ state }) => state === "conflict" || state === "refused").length;
  const words =
    way === "signIn"
      ? "Sign in at the desk’s page to send"
      : waiting > 0
        ? `${waiting} not sent yet, safe on this phone`
        : way === "closed"
          ? "No signal; everything was sent"
          : "All sent";
  return (
    <p role="status" className={`text-sm font-semibold ${waiting > 0 ? "text-tight" : "text-quiet"}`}>
      {waiting > 0 ? "▲ " : "✓ "}
      {words}
      {stuck > 0 && way !== "signIn" && <span className="text-blocked"> · {stuck} not accepted by the desk</span>}
      {open > 0 && <span className="text-blocked"> · {open} to decide</span>}
    </p>
  );
}
