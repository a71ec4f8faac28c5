import { ticked } from "#core/crews";
import { CAUTIONS } from "#core/install";
import { drawingOf, takesWords } from "#core/procedures";
import { plainFigure } from "#core/words";
import { StepDrawing } from "../app/shared/StepDrawing";
import { localTime, type Here } from "./here";
import { Big, Box } from "./parts";
import { useField } from "./useField";
import { useTyped } from "./useTyped";

/** The work step by step, once all that endangers somebody was confirmed here. */
export function Steps({ pack, side, here, notes }: Here) {
  const field = useField();
  const isConfirmed = ticked(notes, side, "caution").size >= CAUTIONS.length;
  const ticks = ticked(notes, side, "step");
  const { steps, leftOut } = here.sheet.work;
  return (
    <section aria-label="Steps">
      <h2 className="text-lg font-semibold">
        Steps, {ticks.size} of {steps.length}
      </h2>
      {!isConfirmed && (
        <p role="status" className="font-semibold text-blocked">
          Confirm the {CAUTIONS.length} points under “Before” first.
        </p>
      )}
      {leftOut.map(({ name, circle }) => (
        <p key={name} role="alert" className="text-sm font-semibold text-blocked">
          {name} is left out: with it {circle}.
        </p>
      ))}
      <ol>
        {steps.map((step, i) => {
          const tick = ticks.get(step.id);
          const drawing = step.diagram && drawingOf(step.diagram, here.sheet);
          return (
            <li key={step.id} className="border-b-2 border-rule py-1" data-step={step.id}>
              <label className="flex min-h-14 items-center gap-3">
                <input
                  type="checkbox"
                  className="size-8 shrink-0 accent-[var(--clay)]"
                  disabled={!isConfirmed}
                  checked={tick !== undefined}
                  onChange={() => void field.note(pack, { side, kind: "step", key: step.id, isOn: !tick })}
                />
                <span>
                  <span className="figures text-quiet">{i + 1}.</span> {step.text}
                  {takesWords(step) && <span className="block text-sm text-quiet">{takesWords(step)}</span>}
                  {step.caution && <strong className="block text-sm text-blocked">⚠ {step.caution}</strong>}
                  {step.trap && <strong className="block text-sm text-tight">Mind: {step.trap}</strong>}
                  {step.hint && <span className="block text-sm">{step.hint}</span>}
                  {tick && (
                    <span className="block text-sm text-quiet">
                      {tick.by || "somebody"}, {localTime(tick.at)}
                      {tick.value !== null && `, ${tick.value} N·m`}
                    </span>
                  )}
                </span>
              </label>
              {drawing && <StepDrawing drawing={drawing} />}
              {step.torqueNm !== null && isConfirmed && (
                <Torque
                  {...{ pack, side }}
                  step={step.id}
                  asked={step.torqueNm}
                  onNote={(value) => void field.note(pack, { side, kind: "step", key: step.id, value })}
                />
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** The torque that was really used. */
function Torque({
  pack,
  side,
  step,
  asked,
  onNote,
}: Pick<Here, "pack" | "side"> & { step: string; asked: number; onNote: (value: number) => void }) {
  const [text, setText] = useTyped({ pack, side }, `torque ${step}`);
  const value = Number(plainFigure(text));
  const isFine = text.trim() !== "" && Number.isFinite(value) && value > 0 && value < 200;
  return (
    <div className="flex items-end gap-2 pb-2 pl-11">
      <Box
        label={`Torque used, of ${asked}`}
        unit="N·m"
        inputMode="decimal"
        value={text}
        onChange={({ target }) => setText(target.value)}
      />
      <Big
        disabled={!isFine}
        onClick={() => {
          onNote(value);
          setText("");
        }}
      >
        Note
      </Big>
    </div>
  );
}
