import type { Pointing } from "#core/aiming";
import { POLARIZATIONS } from "#core/antenna";
import { antennasFor, radioModelsFor } from "#core/kit";
import { setPatch, type LinkEnd, type RadioRow } from "#core/plan";
import { TRY_ABOVE_M } from "../section/MastHandle";
import { figure, NumberField, useFormats } from "../ui";
import { FieldConflict } from "./ConflictPanel";
import { useDesk } from "./DeskContext";

/** What is changed here, so that what somebody else changed meanwhile shows here too. */
const EDITED_FIELDS = [
  "heightM",
  "txPowerDbm",
  "radioModelId",
  "antennaModelId",
  "polarization",
  "cableLossDb",
  "azimuthDeg",
  "tiltDownDeg",
];
const SELECT = "w-full rounded border border-rule bg-panel px-2 py-1 text-sm";

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
  const put = (change: Partial<RadioRow>) => draft.put([setPatch("radios", radio.id, change)]);
  const radios = radioModelsFor(world, radio.role, radio.frequencyMHz);
  const antennas = antennasFor(world, radio.role, radio.frequencyMHz, model);
  const id = (name: string) => `${radio.id}-${name}`;
  return (
    <fieldset className="mt-3 border-t border-rule pt-2">
      <legend className="text-[13px] font-semibold">
        {end.placeName} <span className="font-normal text-quiet">· {radio.name}</span>
      </legend>
      <div className="grid grid-cols-2 gap-2">
        <NumberField
          label="Height above ground"
          unit="m"
          value={radio.heightM}
          step={0.5}
          min={0}
          max={end.maxHeightM + TRY_ABOVE_M}
          onChange={(heightM) => put({ heightM })}
        />
        <NumberField
          label="Transmit power, all chains"
          unit="dBm"
          value={radio.txPowerDbm}
          step={model.powerStepDb}
          min={model.powerMinDbm}
          max={model.powerMaxDbm}
          onChange={(txPowerDbm) => put({ txPowerDbm })}
        />
        <div>
          <label htmlFor={id("radio")} className="mb-0.5 block text-xs text-quiet">
            Radio
          </label>
          <select
            id={id("radio")}
            value={model.id}
            className={SELECT}
            onChange={(event) => {
              const next = world.radioModels.get(event.target.value)!;
              put({
                radioModelId: next.id,
                txPowerDbm: Math.min(next.powerMaxDbm, Math.max(next.powerMinDbm, radio.txPowerDbm)),
              });
            }}
          >
            {!radios.includes(model) && <option value={model.id}>{model.model} (outside its band)</option>}
            {radios.map((one) => (
              <option key={one.id} value={one.id}>
                {one.maker} {one.model}
              </option>
            ))}
          </select>
        </div>
        <div>
          <label htmlFor={id("antenna")} className="mb-0.5 block text-xs text-quiet">
            Antenna
          </label>
          <select
            id={id("antenna")}
            value={antenna.id}
            className={SELECT}
            onChange={(event) => put({ antennaModelId: event.target.value })}
          >
            {!antennas.includes(antenna) && <option value={antenna.id}>{antenna.model} (does not fit)</option>}
            {antennas.map((one) => (
              <option key={one.id} value={one.id}>
                {one.maker} {one.model}
              </option>
            ))}
          </select>
        </div>
        <div>
          <label htmlFor={id("polarization")} className="mb-0.5 block text-xs text-quiet">
            Polarization
          </label>
          <select
            id={id("polarization")}
            value={radio.polarization}
            className={SELECT}
            onChange={(event) => put({ polarization: event.target.value as RadioRow["polarization"] })}
          >
            {POLARIZATIONS.map((one) => (
              <option key={one} value={one}>
                {one === "HV" ? "H and V" : one === "X45" ? "±45°" : one}
              </option>
            ))}
          </select>
        </div>
        <NumberField
          label="Cable loss"
          unit="dB"
          value={radio.cableLossDb}
          step={0.1}
          min={0}
          max={60}
          onChange={(cableLossDb) => put({ cableLossDb })}
        />
        {radio.azimuthDeg !== null && (
          <NumberField
            label="Azimuth, true"
            unit="°"
            value={radio.azimuthDeg}
            step={1}
            min={0}
            max={360}
            onChange={(azimuthDeg) => put({ azimuthDeg })}
          />
        )}
        {radio.tiltDownDeg !== null && (
          <NumberField
            label="Tilt, down"
            unit="°"
            value={radio.tiltDownDeg}
            step={0.5}
            min={-90}
            max={90}
            onChange={(tiltDownDeg) => put({ tiltDownDeg })}
          />
        )}
        {EDITED_FIELDS.map((field) => (
          <FieldConflict key={field} kind="radios" id={radio.id} field={field} />
        ))}
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
