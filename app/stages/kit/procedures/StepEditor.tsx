import { DIAGRAMS, type Step } from "#core/plan";
import { DIAGRAM_WORDS } from "#core/procedures";
import { RULE_SETS } from "#core/regulation";
import { useSortable } from "@dnd-kit/sortable";
import { GripVertical } from "lucide-react";
import { useId, useState } from "react";
import { Button, SelectField, TextField } from "../../../ui";
import { Chips } from "./Chips";

type TextKey = "id" | "part" | "tool" | "caution" | "hint" | "trap";
const DETAILS: readonly (readonly [TextKey, string])[] = [
  ["part", "Part, with its number"],
  ["tool", "Tool, with its size"],
  ["caution", "Caution"],
  ["hint", "Hint"],
  ["trap", "What goes wrong otherwise"],
];

/** One step of an own procedure: its words and order, with the rest under a fold. */
export function StepEditor({
  step,
  index,
  known,
  faults,
  onChange,
  onRemove,
}: {
  step: Step;
  index: number;
  /** Ids of the other steps that it can be before or after. */
  known: readonly string[];
  faults: Readonly<Record<string, string>>;
  onChange: (change: Partial<Step>) => void;
  onRemove: (() => void) | null;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: String(index) });
  const fault = (field: string) => faults[`steps.${index}.${field}`];
  const wordsId = useId();
  const text = (field: TextKey, label: string) => (
    <TextField
      key={field}
      label={label}
      value={step[field]}
      error={fault(field)}
      onChange={({ target }) => onChange({ [field]: target.value })}
    />
  );
  return (
    <li
      ref={setNodeRef}
      data-edit-step={step.id}
      style={{ transform: transform ? `translate(0, ${transform.y}px)` : undefined, transition }}
      className={`relative rounded border bg-panel p-2 ${isDragging ? "z-10 border-clay shadow-lg" : "border-rule"}`}
    >
      <div className="flex items-start gap-2">
        <button
          type="button"
          {...listeners}
          {...attributes}
          aria-label={`Move step ${index + 1}`}
          className="mt-5 cursor-grab touch-none text-quiet"
        >
          <GripVertical size={15} aria-hidden="true" />
        </button>
        <div className="min-w-0 flex-1">
          <label htmlFor={wordsId} className="mb-0.5 block text-xs text-quiet">
            Step {index + 1}
          </label>
          <textarea
            id={wordsId}
            rows={2}
            value={step.text}
            aria-invalid={fault("text") ? true : undefined}
            onChange={({ target }) => onChange({ text: target.value })}
            className="w-full rounded border border-rule bg-panel px-2 py-1 text-sm aria-invalid:border-blocked"
          />
          {fault("text") && (
            <p role="alert" className="text-xs font-medium text-blocked">
              {fault("text")}
            </p>
          )}
        </div>
        {onRemove && (
          <Button className="mt-5 px-1.5 py-0.5 text-xs" aria-label={`Take out step ${index + 1}`} onClick={onRemove}>
            Take out
          </Button>
        )}
      </div>
      <div className="ml-6 space-y-1">
        <Chips
          label="After"
          add="step"
          chosen={step.after}
          offered={known.filter((id) => !step.after.includes(id))}
          onChange={(after) => onChange({ after })}
        />
        <Chips
          label="Before"
          add="step"
          chosen={step.before}
          offered={known.filter((id) => !step.before.includes(id))}
          onChange={(before) => onChange({ before })}
        />
        <details>
          <summary className="cursor-pointer text-xs text-quiet">
            Part, tool, torque, caution, drawing, together with, where it holds
          </summary>
          <div className="mt-1 grid grid-cols-2 gap-2 max-md:grid-cols-1">
            {text("id", "Called, where others are before or after it")}
            {DETAILS.map(([field, label]) => text(field, label))}
            <FigureBox
              label="Torque"
              unit="N·m"
              value={step.torqueNm}
              error={fault("torqueNm")}
              onChange={(torqueNm) => onChange({ torqueNm })}
            />
            <FigureBox
              label="Takes"
              unit="min"
              value={step.minutes}
              error={fault("minutes")}
              onChange={(minutes) => onChange({ minutes: minutes ?? NaN })}
            />
            <SelectField
              label="Drawing"
              value={step.diagram ?? ""}
              onChange={({ target }) => onChange({ diagram: DIAGRAMS.find((one) => one === target.value) ?? null })}
            >
              <option value="">none</option>
              {DIAGRAMS.map((one) => (
                <option key={one} value={one}>
                  {DIAGRAM_WORDS[one]}
                </option>
              ))}
            </SelectField>
            <SelectField
              label="Together with"
              value={step.while ?? ""}
              onChange={({ target }) => onChange({ while: target.value || null })}
            >
              <option value="">no other step</option>
              {known.map((id) => (
                <option key={id} value={id}>
                  {id}
                </option>
              ))}
            </SelectField>
            <SelectField
              label="Where the path looks"
              value={step.when.looks ?? ""}
              onChange={({ target }) => {
                const looks = target.value === "up" || target.value === "down" ? target.value : null;
                onChange({ when: { ...step.when, looks } });
              }}
            >
              <option value="">either way</option>
              <option value="up">up</option>
              <option value="down">down</option>
            </SelectField>
          </div>
          <Chips
            label="Only under"
            add="rule set"
            chosen={step.when.ruleSetIds}
            offered={RULE_SETS.map(({ id }) => id).filter((id) => !step.when.ruleSetIds.includes(id))}
            nameOf={(id) => RULE_SETS.find((one) => one.id === id)?.name ?? id}
            onChange={(ruleSetIds) => onChange({ when: { ...step.when, ruleSetIds } })}
          />
        </details>
      </div>
    </li>
  );
}

/** A number that may be left out, kept as it is typed until it can be read. */
function FigureBox({
  label,
  unit,
  value,
  error,
  onChange,
}: {
  label: string;
  unit: string;
  value: number | null;
  error: string | undefined;
  onChange: (value: number | null) => void;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <TextField
      label={label}
      unit={unit}
      inputMode="decimal"
      value={typed ?? (value === null ? "" : String(value))}
      error={error}
      onBlur={() => error === undefined && setTyped(null)}
      onChange={({ target }) => {
        setTyped(target.value);
        const plain = target.value.trim().replace(",", ".");
        onChange(plain === "" ? null : Number(plain));
      }}
    />
  );
}
