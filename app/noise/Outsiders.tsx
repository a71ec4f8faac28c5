import { formatPlace } from "#core/geodesy";
import { outsiderSchema, plainIssue, putPatch, removePatch, setPatch, type Outsider } from "#core/plan";
import { useState } from "react";
import { useKeepAtOnce } from "../keep/useKeepAtOnce";
import { Button, figure, SelectField, Table, TextField, type Column } from "../ui";

const COLUMNS: Column[] = [
  { name: "Outsider" },
  { name: "Place, height" },
  { name: "Channel", isNumber: true },
  { name: "EIRP, of the time", isNumber: true },
  { name: "Looks" },
  { name: "Change or take out", isHidden: true },
];
const PERCENT = 100;

/** The fields of the form, as they are typed. */
const EMPTY = {
  ...{ name: "", latDeg: "", lonDeg: "", heightM: "20", frequencyMHz: "", widthMHz: "20", eirpDbm: "36" },
  ...{ azimuthDeg: "", antennaModelId: "", timePercent: "100", notes: "" },
};
type Typed = typeof EMPTY;
const numberOf = (text: string) => (text.trim() === "" ? NaN : Number(text.trim().replace("−", "-")));

/** An outsider as its fields are typed. */
const typedOf = ({ name, azimuthDeg, antennaModelId, timeShare, notes, ...numbers }: Outsider): Typed => ({
  ...EMPTY,
  ...{ name, notes, antennaModelId: antennaModelId ?? "", azimuthDeg: azimuthDeg === null ? "" : String(azimuthDeg) },
  ...{ latDeg: String(numbers.latDeg), lonDeg: String(numbers.lonDeg), heightM: String(numbers.heightM) },
  ...{ frequencyMHz: String(numbers.frequencyMHz), widthMHz: String(numbers.widthMHz) },
  ...{ eirpDbm: String(numbers.eirpDbm), timePercent: String(Number((timeShare * PERCENT).toFixed(4))) },
});

/** The fields that were changed: what somebody else changed meanwhile stays as he left it. */
const differing = (before: Outsider, after: Outsider): Partial<Outsider> =>
  Object.fromEntries(Object.entries(after).filter(([field, value]) => before[field as keyof Outsider] !== value));

function rowOf(typed: Typed, planId: string, id: string): unknown {
  const { name, azimuthDeg, antennaModelId, timePercent, notes, ...numbers } = typed;
  return {
    ...{ id, planId, name: name.trim(), notes: notes.trim() },
    ...Object.fromEntries(Object.entries(numbers).map(([field, text]) => [field, numberOf(text)])),
    azimuthDeg: azimuthDeg.trim() === "" ? null : numberOf(azimuthDeg),
    antennaModelId: antennaModelId === "" ? null : antennaModelId,
    timeShare: numberOf(timePercent) / PERCENT,
  };
}

/** Transmitters of others whose place is known: everybody's noise counts them, wherever no scan has measured it. */
export function Outsiders({
  planId,
  revision,
  outsiders,
  antennas,
}: {
  planId: string;
  revision: number;
  outsiders: Outsider[];
  antennas: { id: string; name: string }[];
}) {
  const [typed, setTyped] = useState(EMPTY);
  const [errors, setErrors] = useState<Partial<Record<keyof Typed, string>>>({});
  /** The one that is being changed; null while a new one is typed. */
  const [changedId, setChangedId] = useState<string | null>(null);
  const changed = outsiders.find(({ id }) => id === changedId);
  const begin = (one: Outsider | null) => {
    setChangedId(one && one.id);
    setTyped(one ? typedOf(one) : EMPTY);
    setErrors({});
  };
  const keep = useKeepAtOnce(planId, revision);
  const put = async () => {
    const row = outsiderSchema.safeParse(rowOf(typed, planId, changed?.id ?? crypto.randomUUID()));
    if (!row.success) {
      const found = row.error.issues.map((issue) =>
        issue.path[0] === "timeShare" ? ["timePercent", "must be from 1 to 100"] : [issue.path[0], plainIssue(issue)],
      );
      setErrors(Object.fromEntries(found) as typeof errors);
      return;
    }
    setErrors({});
    const kept = changed
      ? await keep(
          setPatch("outsiders", changed.id, differing(changed, row.data)),
          `Changed the outsider ${changed.name}`,
        )
      : await keep(putPatch("outsiders", row.data), `Added the outsider ${row.data.name}`);
    if (kept) begin(null);
  };
  const field = (name: keyof Typed, label: string, unit?: string, hint?: string) => (
    <TextField
      label={label}
      value={typed[name]}
      error={errors[name]}
      {...(unit ? { unit } : {})}
      {...(hint ? { hint } : {})}
      onChange={({ target }) => setTyped({ ...typed, [name]: target.value })}
    />
  );
  return (
    <section aria-label="Outsiders" className="mt-5">
      <h2 className="mb-1 text-sm font-semibold">Outsiders whose place is known</h2>
      <p className="mb-2 text-xs text-quiet">
        Each is heard over the ground by every radio whose channel meets its own, except where a scan has measured that
        channel: what was measured counts it already.
      </p>
      {outsiders.length > 0 && (
        <div className="mb-3 overflow-x-auto" tabIndex={0} role="region" aria-label="List of outsiders">
          <Table caption="Outsiders" columns={COLUMNS}>
            {outsiders.map((one) => (
              <tr key={one.id} data-outsider={one.id} className="border-t border-rule">
                <td className="px-2">
                  {one.name}
                  {one.notes && <span className="block text-xs text-quiet">{one.notes}</span>}
                </td>
                <td className="figures text-xs">
                  {formatPlace(one, "decimal")}, {figure(one.heightM, 0)} m
                </td>
                <td className="figures text-right text-xs">
                  {one.frequencyMHz} / {one.widthMHz} MHz
                </td>
                <td className="figures text-right text-xs">
                  {figure(one.eirpDbm)} dBm, {figure(one.timeShare * PERCENT, 0)} %
                </td>
                <td className="text-xs">
                  {one.azimuthDeg === null ? "all round" : `${figure(one.azimuthDeg, 0)}°`}
                  {one.antennaModelId !== null &&
                    `, like ${antennas.find(({ id }) => id === one.antennaModelId)?.name ?? "?"}`}
                </td>
                <td className="space-x-1 pr-2 text-right whitespace-nowrap">
                  <Button className="px-1.5 py-0 text-xs" aria-label={`Change ${one.name}`} onClick={() => begin(one)}>
                    Change
                  </Button>
                  <Button
                    className="px-1.5 py-0 text-xs"
                    aria-label={`Take out ${one.name}`}
                    onClick={() => void keep(removePatch("outsiders", one.id), `Took out the outsider ${one.name}`)}
                  >
                    Take out
                  </Button>
                </td>
              </tr>
            ))}
          </Table>
        </div>
      )}
      <form
        aria-label={changed ? `Change ${changed.name}` : "Add an outsider"}
        className="grid grid-cols-2 gap-2 rounded border border-rule bg-panel p-3 sm:grid-cols-4"
        onSubmit={(event) => {
          event.preventDefault();
          void put();
        }}
      >
        {field("name", "Name")}
        {field("latDeg", "Latitude", "°")}
        {field("lonDeg", "Longitude", "°")}
        {field("heightM", "Height above ground", "m")}
        {field("frequencyMHz", "Frequency", "MHz")}
        {field("widthMHz", "Width", "MHz")}
        {field("eirpDbm", "EIRP at its peak", "dBm")}
        {field("timePercent", "Sends", "% of the time")}
        {field("azimuthDeg", "Looks at", "°", "empty: all round")}
        <SelectField
          label="Antenna like"
          value={typed.antennaModelId}
          onChange={({ target }) => setTyped({ ...typed, antennaModelId: target.value })}
        >
          <option value="">alike in all directions</option>
          {antennas.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
        {field("notes", "Notes")}
        <div className="flex items-end gap-2">
          <Button type="submit" look="primary">
            {changed ? "Keep it" : "Add it"}
          </Button>
          {changed && <Button onClick={() => begin(null)}>Leave it</Button>}
        </div>
      </form>
    </section>
  );
}
