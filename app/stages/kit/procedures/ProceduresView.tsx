import { libraryItemName } from "./libraryItemName";
import { procedureSchema, putPatch, removePatch, type Procedure } from "#core/plan";
import { FAMILIES, GENERAL } from "#core/procedures";
import { readProcedureJson, writeProcedureJson, type KitError } from "#formats/kit";
import { counted } from "#core/words";
import { useRef, useState } from "react";
import { useDesk } from "../../../desk/DeskContext";
import { download } from "../../../ui/download";
import { Button, buttonClass } from "../../../ui";
import { ProcedureEditor } from "./ProcedureEditor";
import { ProcedureSheet } from "./ProcedureSheet";

const SHIPPED: readonly Procedure[] = [GENERAL, ...FAMILIES];
/** A procedure before anybody wrote it. */
const BLANK = { name: "Own procedure", steps: [{ id: "first", text: "First step." }] };

/** How kit goes together: the procedures that ship, and the plan's own to be written, read and saved. */
export function ProceduresView() {
  const { world, draft, data } = useDesk();
  const planId = data.world.plan.id;
  const own = [...world.procedures.values()];
  const [chosenId, setChosenId] = useState<string>(GENERAL.id);
  const [refused, setRefused] = useState<{ name: string; errors: KitError[] } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const shown = world.procedures.get(chosenId) ?? SHIPPED.find(({ id }) => id === chosenId) ?? GENERAL;
  const isOwn = world.procedures.has(shown.id);
  const add = (given: Omit<Procedure, "id">) => {
    const id = crypto.randomUUID();
    draft.put([putPatch("equipment", { kind: "procedure", id, planId, body: { ...given, id } })]);
    setChosenId(id);
  };
  const read = async (given: File) => {
    const { item, errors } = readProcedureJson(new Uint8Array(await given.arrayBuffer()));
    if (!item) return setRefused({ name: given.name, errors });
    setRefused(null);
    for (const one of item) add(one);
  };
  return (
    <div className="flex h-full text-[13px] max-md:flex-col">
      <nav aria-label="Procedures" className="w-60 shrink-0 overflow-y-auto border-r border-rule p-2 max-md:w-full">
        <Group name="Own" empty="None yet." of={own} chosenId={shown.id} onChoose={setChosenId} />
        <Group name="Shipped with Tejado" empty="" of={SHIPPED} chosenId={shown.id} onChoose={setChosenId} />
      </nav>
      <div className="min-h-0 min-w-0 flex-1 overflow-y-auto p-3" tabIndex={0} role="region" aria-label={shown.name}>
        <div className="flex flex-wrap items-center gap-2">
          <Button onClick={() => add(procedureSchema.parse({ ...BLANK, id: "new" }))}>Write a new one</Button>
          <Button onClick={() => add({ ...shown, name: `${shown.name}, own`.slice(0, 120) })}>
            Copy this one as own
          </Button>
          <input
            ref={file}
            type="file"
            accept=".json,application/json"
            aria-label="File of procedures"
            className="sr-only"
            onChange={({ target }) => {
              const given = target.files?.[0];
              target.value = "";
              if (given) void read(given);
            }}
          />
          <Button onClick={() => file.current?.click()}>Read a file</Button>
          <Button onClick={() => download("procedures.json", "application/json", writeProcedureJson([shown]))}>
            Save this one
          </Button>
          {own.length > 0 && (
            <Button onClick={() => download("procedures.json", "application/json", writeProcedureJson(own))}>
              Save {counted(own.length, "own procedure")}
            </Button>
          )}
          <a className={buttonClass()} href={`/plans/${planId}/kit/procedures.pdf`} download>
            All as PDF
          </a>
          {isOwn && (
            <Button
              onClick={() => {
                draft.put([removePatch("equipment", shown.id)]);
                setChosenId(GENERAL.id);
              }}
            >
              Take out
            </Button>
          )}
        </div>
        {refused && (
          <div role="alert" className="mt-2 text-blocked">
            <p className="font-medium">{refused.name} was not taken. Mend what is told here and bring it again.</p>
            <ul>
              {refused.errors.map(({ row, field, value, reason }, i) => (
                <li key={i}>
                  {row > 0 && `Procedure ${row}, `}
                  {field}
                  {value && ` (${value})`}: {reason}
                </li>
              ))}
            </ul>
          </div>
        )}
        {isOwn ? (
          <ProcedureEditor key={shown.id} procedure={shown} />
        ) : (
          <ProcedureSheet procedure={shown} kitNames={shown.forModels.map((id) => libraryItemName(world, id))} />
        )}
      </div>
    </div>
  );
}

function Group({
  name,
  empty,
  of,
  chosenId,
  onChoose,
}: {
  name: string;
  empty: string;
  of: readonly Procedure[];
  chosenId: string;
  onChoose: (id: string) => void;
}) {
  return (
    <section className="mb-3">
      <h2 className="font-semibold">{name}</h2>
      {of.length === 0 && <p className="text-quiet">{empty}</p>}
      <ul>
        {of.map(({ id, name: title, steps }) => (
          <li key={id}>
            <button
              type="button"
              aria-current={id === chosenId}
              onClick={() => onChoose(id)}
              className="w-full rounded px-1 py-0.5 text-left hover:text-clay aria-current:font-semibold aria-current:text-clay"
            >
              {title} <span className="text-xs text-quiet">{counted(steps.length, "step")}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
