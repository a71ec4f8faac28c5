import { CAUTIONS, type CrewEnd } from "#core/install";
import { drawingOf, minutesOf, takesWords, toolWords } from "#core/procedures";
import { figure } from "../../ui";
import { StepDrawing } from "../../shared/StepDrawing";

/** The work at one end, step by step: what holds for everything and what this kit asks for, in one order. */
export function ProcedureSteps({
  end,
  confirmed,
  ticks,
  onTick,
}: {
  end: CrewEnd;
  confirmed: boolean;
  ticks: ReadonlySet<string>;
  onTick: (id: string) => void;
}) {
  const { steps, procedures, leftOut } = end.work;
  const tools = toolWords(steps);
  return (
    <>
      <p className="text-sm text-quiet">
        {procedures.join("; ")}. Some {figure(minutesOf(steps), 0)} minutes{tools && `. Take: ${tools}`}.
      </p>
      {leftOut.map(({ name, circle }) => (
        <p key={name} role="alert" className="text-sm font-medium text-blocked">
          {name} is left out: with it {circle}.
        </p>
      ))}
      {!confirmed && (
        <p role="status" className="text-sm font-medium text-blocked">
          Confirm the {CAUTIONS.length} points above first.
        </p>
      )}
      <ol>
        {steps.map((step, i) => (
          <li key={step.id} className="border-b border-rule" data-step={step.id}>
            <label className="flex min-h-12 items-start gap-3 py-2">
              <input
                type="checkbox"
                disabled={!confirmed}
                className="mt-0.5 size-6 shrink-0 accent-[var(--clay)]"
                checked={ticks.has(step.id)}
                onChange={() => onTick(step.id)}
              />
              <span>
                <span className="figures text-quiet">{i + 1}.</span> {step.text}
                {takesWords(step) && <span className="block text-sm text-quiet">{takesWords(step)}</span>}
                {step.caution && <strong className="block text-sm text-blocked">⚠ {step.caution}</strong>}
                {step.hint && <span className="block text-sm">{step.hint}</span>}
                {step.trap && <span className="block text-sm text-tight">Mind: {step.trap}</span>}
                {step.diagram && <StepDrawing drawing={drawingOf(step.diagram, end)} />}
              </span>
            </label>
          </li>
        ))}
      </ol>
    </>
  );
}
