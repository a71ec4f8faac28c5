import { X } from "lucide-react";

/** Some of a list as chips that can be taken off, and a box to add another. */
export function Chips({
  label,
  add,
  chosen,
  offered,
  nameOf = (id) => id,
  onChange,
}: {
  label: string;
  /** What is added, in words. */
  add: string;
  chosen: readonly string[];
  offered: readonly string[];
  nameOf?: (id: string) => string;
  onChange: (ids: string[]) => void;
}) {
  return (
    <div role="group" aria-label={label} className="flex flex-wrap items-center gap-1">
      <span className="text-xs text-quiet">{label}</span>
      {chosen.map((id) => (
        <span key={id} className="inline-flex items-center gap-1 rounded-full border border-rule px-2 text-xs">
          {nameOf(id)}
          <button
            type="button"
            aria-label={`Take ${nameOf(id)} off`}
            className="hover:text-clay"
            onClick={() => onChange(chosen.filter((one) => one !== id))}
          >
            <X size={12} aria-hidden="true" />
          </button>
        </span>
      ))}
      <select
        aria-label={`${label}: add a ${add}`}
        value=""
        className="max-w-40 rounded border border-rule bg-panel px-1 text-xs"
        onChange={({ target }) => target.value && onChange([...chosen, target.value])}
      >
        <option value="">add…</option>
        {offered.map((id) => (
          <option key={id} value={id}>
            {nameOf(id)}
          </option>
        ))}
      </select>
    </div>
  );
}
