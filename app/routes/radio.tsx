import { RADIOS } from "#core/catalogue";
import type { RadioModel } from "#core/radio";
import { writeRadioJson } from "#formats/kit";
import { data, Link, useNavigate, useSearchParams } from "react-router";
import { toast } from "sonner";
import { requirePlan } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { needsOfRadio } from "#core/kit";
import { putPatch, setPatch } from "#core/plan";
import { keepPatches } from "../keep/keepPatches";
import { download } from "../ui/download";
import { RadioEditor } from "../library/RadioEditor";
import { RadioSheet } from "../library/RadioSheet";
import { Button, buttonClass } from "../ui";
import type { Route } from "./+types/radio";

/** A radio's sheet; `new` is a radio to be written, copied from `?from=` or from the first of the catalogue. */
export async function loader({ params, url }: Route.LoaderArgs) {
  const { rows, world, revision } = await requirePlan(params.planId);
  const models = world.radioModels;
  const isNew = params.radioId === "new";
  const from = url.searchParams.get("from");
  const radio = isNew ? (models.get(from ?? "") ?? [...models.values()][0] ?? RADIOS[0]) : models.get(params.radioId);
  if (!radio) throw data(`There is no radio "${params.radioId}" in the library.`, { status: 404 });
  return {
    plan: { id: rows.plan.id, name: rows.plan.name },
    revision,
    radio,
    needs: needsOfRadio(world, radio, rows.plan.ruleSetId),
    isNew,
    isCopy: from !== null,
    useCount: isNew ? 0 : rows.radios.filter(({ radioModelId }) => radioModelId === radio.id).length,
  };
}

export default function Radio({
  loaderData: { plan, revision, radio, needs, isNew, isCopy, useCount },
}: Route.ComponentProps) {
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const base = `/plans/${plan.id}/library`;
  const editing = isNew || params.has("edit");
  const name = isNew ? "A new radio" : `${radio.maker} ${radio.model}`;
  const keep = async (written: RadioModel) => {
    const id = isNew ? crypto.randomUUID() : radio.id;
    const { ok, message } = await keepPatches(
      plan.id,
      revision,
      [
        isNew
          ? putPatch("equipment", { kind: "radio", id, planId: plan.id, body: { ...written, id } })
          : setPatch("equipment", id, { body: { ...written, id } }),
      ],
      `${isNew ? "Added" : "Changed"} the radio ${written.maker} ${written.model}`,
    );
    if (!ok) {
      toast.error(message, { duration: 12_000 });
      return;
    }
    toast(`${written.maker} ${written.model} is kept. Undo takes it back.`);
    await navigate(`${base}/radios/${id}`);
  };
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-4xl px-6 py-5">
        <title>{`${name} – ${plan.name}`}</title>
        <p className="text-sm">
          <Link to={base} className="text-clay underline">
            Library
          </Link>
        </p>
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <h1 className="mr-auto text-xl font-semibold">{name}</h1>
          {!editing && (
            <>
              <Button onClick={() => setParams({ edit: "" })}>Change</Button>
              <Link to={`${base}/radios/new?from=${encodeURIComponent(radio.id)}`} className={buttonClass()}>
                Copy
              </Link>
              <Button
                onClick={() =>
                  download(`${radio.model.replace(/[^\w.-]+/g, "-")}.json`, "application/json", writeRadioJson([radio]))
                }
              >
                Save as JSON
              </Button>
            </>
          )}
        </div>
        {editing && useCount > 0 && (
          <p className="mb-3 text-sm text-tight">
            {useCount} {useCount === 1 ? "radio" : "radios"} of this plan {useCount === 1 ? "is" : "are"} of this model:
            a change here changes what they can do.
          </p>
        )}
        {editing ? (
          <RadioEditor
            key={radio.id}
            radio={
              isNew ? { ...radio, maker: isCopy ? radio.maker : "", model: isCopy ? `${radio.model} copy` : "" } : radio
            }
            onKeep={keep}
            onLeave={() => (isNew ? void navigate(base) : setParams({}))}
          />
        ) : (
          <RadioSheet radio={radio} needs={needs} />
        )}
      </main>
    </PlanFrame>
  );
}
