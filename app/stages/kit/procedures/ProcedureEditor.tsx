import { procedureSchema, setPatch, type Equipment, type Procedure, type Step } from "#core/plan";
import { contradictionOf, GENERAL } from "#core/procedures";
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from "@dnd-kit/core";
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { useState } from "react";
import { useDesk } from "../../../desk/DeskContext";
import { boundText, Button, TextField } from "../../../ui";
import { KitChips } from "./KitChips";
import { StepEditor } from "./StepEditor";

/** Faults by the path of their field, "steps.2.text". */
function faultsOf(procedure: Procedure): Record<string, string> {
  const parsed = procedureSchema.safeParse(procedure);
  if (parsed.success) return {};
  return Object.fromEntries(
    parsed.error.issues.map((issue) => {
      const value = issue.path.reduce<unknown>((at, key) => (at as Record<PropertyKey, unknown>)?.[key], procedure);
      return [issue.path.join("."), boundText(issue, String(value ?? ""))];
    }),
  );
}

const place = (id: string | number | undefined) => Number(id) + 1;
/** What a screen reader says while a step is moved. */
const MOVES: Announcements = {
  onDragStart: ({ active }) => `Step ${place(active.id)} is picked up.`,
  onDragOver: ({ active, over }) =>
    over ? `Step ${place(active.id)} would become step ${place(over.id)}.` : undefined,
  onDragEnd: ({ active, over }) => `Step ${place(active.id)} is step ${place((over ?? active).id)} now.`,
  onDragCancel: ({ active }) => `Step ${place(active.id)} stays where it was.`,
};

/** An own procedure to be written. What is complete goes into the change in hand as it is typed; what is not stays in its box with its reason. */
export function ProcedureEditor({ procedure }: { procedure: Procedure }) {
  const { draft, world } = useDesk();
  const [typed, setTyped] = useState<Procedure | null>(null);
  const shown = typed ?? procedure;
  const faults = faultsOf(shown);
  const circle = Object.keys(faults).length === 0 ? contradictionOf(shown, world.plan.ruleSetId) : null;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const put = (next: Procedure) => {
    const isWhole = procedureSchema.safeParse(next).success;
    setTyped(isWhole ? null : next);
    if (isWhole) draft.put([setPatch("equipment", procedure.id, { body: next } as Partial<Equipment>)]);
  };
  const putStep = (index: number, change: Partial<Step>) => {
    const old = shown.steps[index]!;
    const steps = shown.steps.map((step, i) => (i === index ? { ...step, ...change } : step));
    // Whoever points at a step that is called otherwise now points at it still.
    const renamed = (id: string) => (id === old.id && change.id ? change.id : id);
    put({
      ...shown,
      steps: steps.map((step) => ({
        ...step,
        before: step.before.map(renamed),
        after: step.after.map(renamed),
        while: step.while === null ? null : renamed(step.while),
      })),
    });
  };
  const move = ({ active, over }: DragEndEvent) => {
    const ids = shown.steps.map((_, i) => String(i));
    if (over && active.id !== over.id)
      put({ ...shown, steps: arrayMove(shown.steps, ids.indexOf(String(active.id)), ids.indexOf(String(over.id))) });
  };
  const addStep = () => {
    const taken = new Set(shown.steps.map(({ id }) => id));
    let number = shown.steps.length + 1;
    while (taken.has(`step-${number}`)) number++;
    const [blank] = procedureSchema.parse({ ...shown, steps: [{ id: `step-${number}`, text: "New step." }] }).steps;
    put({ ...shown, steps: [...shown.steps, blank!] });
  };
  const known = [...new Set([...shown.steps, ...GENERAL.steps].map(({ id }) => id))];
  return (
    <article className="mt-3 max-w-3xl" aria-label={`Editor of ${shown.name}`}>
      <TextField
        label="Name"
        value={shown.name}
        error={faults.name}
        onChange={({ target }) => put({ ...shown, name: target.value })}
      />
      <KitChips chosen={shown.forModels} onChange={(forModels) => put({ ...shown, forModels })} />
      {circle && (
        <p role="alert" className="mt-2 rounded border border-blocked p-2 font-medium text-blocked" data-circle>
          These steps wait for each other in a circle: {circle}. Until one constraint is taken off, crew sheets leave
          this procedure out and say so.
        </p>
      )}
      {faults.steps && (
        <p role="alert" className="mt-2 text-blocked">
          {faults.steps}
        </p>
      )}
      <DndContext sensors={sensors} onDragEnd={move} accessibility={{ announcements: MOVES }}>
        <SortableContext items={shown.steps.map((_, i) => String(i))} strategy={verticalListSortingStrategy}>
          <ol className="mt-2 space-y-2">
            {shown.steps.map((step, i) => (
              <StepEditor
                key={i}
                step={step}
                index={i}
                known={known.filter((id) => id !== step.id)}
                faults={faults}
                onChange={(change) => putStep(i, change)}
                onRemove={
                  shown.steps.length > 1
                    ? () => put({ ...shown, steps: shown.steps.filter((_, other) => other !== i) })
                    : null
                }
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <Button className="mt-2" onClick={addStep}>
        Add a step
      </Button>
    </article>
  );
}
