import type { Procedure } from "#core/plan";
import { EXAMPLE_END, drawingOf, minutesOf, takesWords, toolWords } from "#core/procedures";
import { StepDrawing } from "../../../shared/StepDrawing";
import { figure } from "../../../ui";

/** One procedure to be read: its steps in their order, with what goes wrong where the order is lost. */
export function ProcedureSheet({ procedure, kitNames }: { procedure: Procedure; kitNames: readonly string[] }) {
  const { name, steps } = procedure;
  const tools = toolWords(steps);
  return (
    <article className="mt-3 max-w-3xl">
      <h2 className="text-base font-semibold">{name}</h2>
      <p className="text-quiet">
        Some {figure(minutesOf(steps), 0)} minutes{tools && `. Take: ${tools}`}.
        {kitNames.length > 0 && ` For ${kitNames.join(", ")}.`}
      </p>
      <ol className="mt-1">
        {steps.map((step, i) => (
          <li key={step.id} className="border-t border-rule py-1" data-step={step.id}>
            <span className="figures text-quiet">{i + 1}.</span> {step.text}{" "}
            <span className="text-quiet">{takesWords(step)}</span>
            {step.caution && <strong className="block text-blocked">⚠ {step.caution}</strong>}
            {step.hint && <span className="block">{step.hint}</span>}
            {step.trap && <span className="block text-tight">Mind: {step.trap}</span>}
            {(step.before.length > 0 || step.after.length > 0) && (
              <span className="block text-xs text-quiet">
                {step.after.length > 0 && `after ${step.after.join(", ")}`}
                {step.before.length > 0 && ` before ${step.before.join(", ")}`}
              </span>
            )}
            {step.diagram && <StepDrawing drawing={drawingOf(step.diagram, EXAMPLE_END)} />}
          </li>
        ))}
      </ol>
    </article>
  );
}
