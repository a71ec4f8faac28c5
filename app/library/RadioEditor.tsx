import { JOINS } from "#core/antenna";
import { ALIGNMENT_AIDS, POWER_INPUTS, POWER_SETTINGS, radioModelSchema, type RadioModel } from "#core/radio";
import { plainFigure } from "#core/words";
import { useState } from "react";
import { boundText, Button, SelectField, TextField } from "../ui";
import { boxOf, boxText } from "./boxText";

type Field = [name: string, label: string, unit?: string];
const TEXTS: Field[] = [
  ["maker", "Maker"],
  ["model", "Model"],
];
const NUMBERS: Field[] = [
  ["bandMHz.0", "Band from", "MHz"],
  ["bandMHz.1", "Band to", "MHz"],
  ["rasterMHz", "Centres every", "MHz"],
  ["powerMinDbm", "Least power, all chains", "dBm"],
  ["powerMaxDbm", "Greatest power, all chains", "dBm"],
  ["powerStepDb", "Power step", "dB"],
  ["noiseFigureDb", "Noise figure", "dB"],
  ["chains", "Chains"],
  ["downShare", "Share of the frame away from the access point"],
  ["efficiency", "Net over raw rate"],
  ["rangeLimitKm", "Range by timing", "km"],
  ["adjacentRejectionDb", "Adjacent-channel rejection", "dB"],
  ["overloadDbm", "Overload from", "dBm"],
  ["clientLimit", "Clients at most"],
  ["loadW", "Draws at most", "W"],
  ["earthMm2", "Earth lead at least", "mm²"],
  ["poleMm.0", "Pole from", "mm"],
  ["poleMm.1", "Pole to", "mm"],
  ["weightKg", "Weight", "kg"],
  ["priceEur", "Price", "€"],
];

/** What stands in the boxes: every value as text, so that what is half typed is kept. */
type Typed = Record<string, string>;

function typedOf(radio: RadioModel): Typed {
  const typed: Typed = {
    widthsMHz: radio.widthsMHz.join(", "),
    ports: radio.ports.join(", "),
    joins: radio.joins.join(", "),
    steersBeam: radio.steersBeam ? "yes" : "no",
    meterVoltsPerDbm: radio.meterVoltsPerDbm === null ? "" : String(radio.meterVoltsPerDbm),
    duplexSpacingMHz: radio.duplexSpacingMHz === null ? "" : String(radio.duplexSpacingMHz),
    portMbps: radio.portMbps === null ? "" : String(radio.portMbps),
    startW: radio.startW === null ? "" : String(radio.startW),
    deliveryDays: radio.deliveryDays === null ? "" : String(radio.deliveryDays),
    box: boxText(radio.box),
    "bandMHz.0": String(radio.bandMHz[0]),
    "bandMHz.1": String(radio.bandMHz[1]),
    "poleMm.0": String(radio.poleMm[0]),
    "poleMm.1": String(radio.poleMm[1]),
  };
  for (const [name, value] of Object.entries(radio))
    if (typeof value === "string" || typeof value === "number") typed[name] = String(value);
  radio.modulations.forEach(({ name, snrDb, bitsPerHz, backoffDb }, i) =>
    Object.assign(typed, {
      [`modulations.${i}.name`]: name,
      [`modulations.${i}.snrDb`]: String(snrDb),
      [`modulations.${i}.bitsPerHz`]: String(bitsPerHz),
      [`modulations.${i}.backoffDb`]: String(backoffDb),
    }),
  );
  return typed;
}

const toNumber = (text: string | undefined) => {
  const plain = plainFigure(text ?? "");
  return plain === "" ? NaN : Number(plain);
};
const parts = (text: string | undefined) =>
  (text ?? "")
    .split(/[,;\n]/)
    .map((part) => part.trim())
    .filter(Boolean);

/** A figure that a sheet need not have. */
const orNull = (text: string | undefined) => (text?.trim() ? toNumber(text) : null);

function radioOf(typed: Typed, id: string, rows: number): unknown {
  const raw: Record<string, unknown> = {
    id,
    maker: typed.maker?.trim(),
    model: typed.model?.trim(),
    use: typed.use,
    duplex: typed.duplex,
    powerSetting: typed.powerSetting,
    powerInput: typed.powerInput,
    alignmentAid: typed.alignmentAid,
    boxAddress: typed.boxAddress?.trim(),
    steersBeam: typed.steersBeam === "yes",
    widthsMHz: (typed.widthsMHz ?? "")
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(toNumber),
    ports: parts(typed.ports),
    joins: parts(typed.joins),
    meterVoltsPerDbm: orNull(typed.meterVoltsPerDbm),
    duplexSpacingMHz: orNull(typed.duplexSpacingMHz),
    portMbps: orNull(typed.portMbps),
    startW: orNull(typed.startW),
    deliveryDays: orNull(typed.deliveryDays),
    box: boxOf(typed.box ?? ""),
    bandMHz: [toNumber(typed["bandMHz.0"]), toNumber(typed["bandMHz.1"])],
    poleMm: [toNumber(typed["poleMm.0"]), toNumber(typed["poleMm.1"])],
    modulations: Array.from({ length: rows }, (_, i) => ({
      name: typed[`modulations.${i}.name`]?.trim(),
      snrDb: toNumber(typed[`modulations.${i}.snrDb`]),
      bitsPerHz: toNumber(typed[`modulations.${i}.bitsPerHz`]),
      backoffDb: toNumber(typed[`modulations.${i}.backoffDb`]),
    })),
  };
  for (const [name] of NUMBERS) if (!name.includes(".")) raw[name] = toNumber(typed[name]);
  return raw;
}

/** All of a radio's sheet to be written; what is out of bounds stays in its box with its reason. */
export function RadioEditor({
  radio,
  onKeep,
  onLeave,
}: {
  radio: RadioModel;
  onKeep: (radio: RadioModel) => Promise<void>;
  onLeave: () => void;
}) {
  const [typed, setTyped] = useState<Typed>(() => typedOf(radio));
  const [rows, setRows] = useState(radio.modulations.length);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [busy, setBusy] = useState(false);
  const put = (name: string, value: string) => setTyped((old) => ({ ...old, [name]: value }));
  const keep = async () => {
    const parsed = radioModelSchema.safeParse(radioOf(typed, radio.id, rows));
    if (!parsed.success) {
      const found: Record<string, string> = {};
      for (const issue of parsed.error.issues) {
        const path = issue.path.map(String);
        const isList = path[0] === "widthsMHz" || path[0] === "ports" || path[0] === "joins" || path[0] === "box";
        const key = isList ? path[0]! : path.join(".");
        found[key] ??= boundText(issue, typed[key] ?? "");
      }
      return setErrors(found);
    }
    setErrors({});
    setBusy(true);
    await onKeep(parsed.data);
    setBusy(false);
  };
  const text = ([name, label, unit]: Field, hint?: string) => (
    <TextField
      key={name}
      label={label}
      value={typed[name] ?? ""}
      onChange={({ target }) => put(name, target.value)}
      error={errors[name]}
      {...(unit ? { unit } : {})}
      {...(hint ? { hint } : {})}
    />
  );
  const select = (name: string, label: string, choices: readonly string[], words: Record<string, string> = {}) => (
    <SelectField
      label={label}
      value={typed[name]}
      onChange={({ target }) => put(name, target.value)}
      error={errors[name]}
    >
      {choices.map((one) => (
        <option key={one} value={one}>
          {words[one] ?? one}
        </option>
      ))}
    </SelectField>
  );
  const cell = (i: number, field: string, label: string) => {
    const name = `modulations.${i}.${field}`;
    return (
      <td className="py-0.5 pr-2 align-top">
        <input
          aria-label={`${label} of modulation ${i + 1}`}
          value={typed[name] ?? ""}
          onChange={({ target }) => put(name, target.value)}
          aria-invalid={errors[name] ? true : undefined}
          className="figures w-full rounded border border-rule bg-panel px-2 py-0.5 text-sm aria-invalid:border-blocked"
        />
        {errors[name] && (
          <span role="alert" className="text-xs text-blocked">
            {errors[name]}
          </span>
        )}
      </td>
    );
  };
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
      className="space-y-4"
    >
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {TEXTS.map((field) => text(field))}
        {select("use", "Use", ["sector", "subscriber", "bridge"])}
        {text(["widthsMHz", "Widths", "MHz"], "parted by commas")}
        {NUMBERS.map((field) => text(field))}
        {select("duplex", "Duplex", ["TDD", "FDD"])}
        {select("powerSetting", "Power is set for", POWER_SETTINGS, {
          total: "all chains together",
          perChain: "each chain",
        })}
        {select("powerInput", "Power input", POWER_INPUTS)}
        {select("alignmentAid", "Alignment aid", ALIGNMENT_AIDS)}
        {select("steersBeam", "Turns a receive beam", ["no", "yes"])}
        {text(["meterVoltsPerDbm", "Meter", "V/dBm"], "empty without a jack")}
        {text(["duplexSpacingMHz", "Frequencies apart", "MHz"], "FDD only")}
        {text(["portMbps", "Fastest socket", "Mbit/s"], "empty where unknown")}
        {text(["ports", "Ports"], "parted by commas")}
        {text(["joins", "Antennas are joined by"], JOINS.join(", "))}
        {text(["startW", "Draws as it starts", "W"], "empty where unknown")}
        {text(["deliveryDays", "Delivery", "days"], "empty where unknown")}
        {text(["boxAddress", "Leaves its box at"], "with its prefix: 192.168.1.20/24")}
      </div>
      <div>
        <label htmlFor="box" className="mb-0.5 block text-xs text-quiet">
          Also in its box, a line each: count × what; kind of part (empty: none); rule sets (empty: all)
        </label>
        <textarea
          id="box"
          rows={3}
          value={typed.box}
          onChange={({ target }) => put("box", target.value)}
          className="w-full rounded border border-rule bg-panel px-2 py-1 text-sm"
        />
        {errors.box && (
          <p role="alert" className="text-xs font-medium text-blocked">
            {errors.box}
          </p>
        )}
      </div>
      <fieldset>
        <legend className="mb-1 font-semibold">Modulations, from the most robust to the fastest</legend>
        <table className="w-full text-[13px]">
          <thead>
            <tr className="text-left text-xs text-quiet [&_th]:font-normal">
              <th>Name</th>
              <th>SNR, dB</th>
              <th>Bit/s per Hz, one chain</th>
              <th>Back-off, dB</th>
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: rows }, (_, i) => (
              <tr key={i}>
                {cell(i, "name", "Name")}
                {cell(i, "snrDb", "SNR")}
                {cell(i, "bitsPerHz", "Bits")}
                {cell(i, "backoffDb", "Back-off")}
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-1 flex gap-2">
          <Button onClick={() => setRows(rows + 1)}>One more</Button>
          {rows > 1 && <Button onClick={() => setRows(rows - 1)}>Drop the last</Button>}
        </div>
      </fieldset>
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={busy}>
          Keep
        </Button>
        <Button onClick={onLeave}>Leave as it was</Button>
        {Object.keys(errors).length > 0 && (
          <p role="alert" className="self-center text-sm text-blocked">
            Not kept: {Object.keys(errors).length} {Object.keys(errors).length === 1 ? "value is" : "values are"} out of
            bounds.
          </p>
        )}
      </div>
    </form>
  );
}
