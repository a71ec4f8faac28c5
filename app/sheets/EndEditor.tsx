import type { Pointing } from "#core/aiming";
import { antennasFor, radioModelsFor } from "#core/kit";
import { setPatch, type LinkEnd } from "#core/plan";
import { TRY_ABOVE_M } from "../section/MastHandle";
import { figure, useFormats } from "../ui";
import { useDesk } from "../desk/DeskContext";
import { FieldEdit, FieldsEdit } from "./fields";

/** One end of a link to be changed: height, power, kit, polarization, and where it points. */
export function EndEditor({
  end,
  pointing,
  leastHeightM,
}: {
  end: LinkEnd;
  pointing?: Pointing;
  leastHeightM?: number;
}) {
  const { world, draft } = useDesk();
  const formats = useFormats();
  const { radio, model, antenna } = end;
  const own = { kind: "radios", row: radio } as const;
  const radios = radioModelsFor(world, radio.role, radio.frequencyMHz);
  const antennas = antennasFor(world, radio.role, radio.frequencyMHz, model);
  const named = <M extends { id: string; maker: string; model: string }>(
    models: readonly M[],
    used: M,
    why: string,
  ) => [
    ...(models.includes(used) ? [] : [[used.id, `${used.model} (${why})`] as const]),
    ...models.map(({ id, maker, model: name }) => [id, `${maker} ${name}`] as const),
  ];
  const change = (radioModelId: string) => {
    const { powerMinDbm, powerMaxDbm } = world.radioModels.get(radioModelId)!;
    const txPowerDbm = Math.min(powerMaxDbm, Math.max(powerMinDbm, radio.txPowerDbm));
    draft.put([setPatch("radios", radio.id, { radioModelId, txPowerDbm })]);
  };
  return (
    <fieldset className="mt-3 border-t border-rule pt-2">
      <legend className="text-[13px] font-semibold">
        {end.placeName} <span className="font-normal text-quiet">· {radio.name}</span>
      </legend>
      <div className="grid grid-cols-2 gap-2">
        <FieldEdit {...own} field="heightM" bounds={{ max: end.maxHeightM + TRY_ABOVE_M }} />
        <FieldEdit
          {...own}
          field="txPowerDbm"
          bounds={{ min: model.powerMinDbm, max: model.powerMaxDbm, step: model.powerStepDb }}
        />
        <FieldEdit
          {...own}
          field="radioModelId"
          choices={named(radios, model, "outside its band")}
          onSet={(id) => change(id as string)}
        />
        <FieldEdit {...own} field="antennaModelId" choices={named(antennas, antenna, "does not fit")} />
        <FieldsEdit {...own} fields={["polarization", "cableLossDb"]} />
        {radio.azimuthDeg !== null && <FieldEdit {...own} field="azimuthDeg" />}
        {radio.tiltDownDeg !== null && <FieldEdit {...own} field="tiltDownDeg" />}
      </div>
      <p className="mt-1 text-xs text-quiet">
        {pointing &&
          radio.azimuthDeg === null &&
          `Aims at ${figure(pointing.azimuthDeg)}° true, ${figure(Math.abs(pointing.mechanicalTiltDownDeg))}° ${pointing.mechanicalTiltDownDeg >= 0 ? "down" : "up"}. `}
        {leastHeightM !== undefined &&
          `Clear enough from ${formats.height(leastHeightM)}; structure ${formats.height(end.maxHeightM)}.`}
      </p>
      {radio.heightM > end.maxHeightM && (
        <p role="alert" className="text-xs font-medium text-blocked">
          {formats.height(radio.heightM)} is {formats.height(radio.heightM - end.maxHeightM)} above the structure (
          {formats.height(end.maxHeightM)}). Try it, but it cannot be kept.
        </p>
      )}
    </fieldset>
  );
}
