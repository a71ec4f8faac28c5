import { areaSchema, fieldWord, patchBetween, plainIssue, removePatch, type Area } from "#core/plan";
import { COVER_KINDS } from "#core/terrain";
import { parsePosition } from "#formats/places";
import { useState } from "react";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { keepPatches } from "../keep/keepPatches";
import { Button, SelectField, TextField } from "../ui";
import { useDesk } from "../desk/DeskContext";

const cornersText = (area: Area) =>
  area.rings[0]!.slice(0, -1)
    .map(([lon, lat]) => `${lat}, ${lon}`)
    .join("\n");

/** An outline of cover: what it is, how high, how thick, and its corners, which can be typed as well as dragged. */
export function AreaSheet({ area }: { area: Area }) {
  const { data, select } = useDesk();
  const { revalidate } = useRevalidator();
  const [name, setName] = useState(area.name);
  const [kind, setKind] = useState(area.kind);
  const [heightM, setHeightM] = useState(String(area.heightM));
  const [density, setDensity] = useState(String(area.density));
  const [corners, setCorners] = useState(cornersText(area));
  const [error, setError] = useState("");
  const put = async (row: Area | null, what: string) => {
    const patch = row ? patchBetween("areas", area, row) : removePatch("areas", area.id);
    if (!patch) return true;
    const { ok, message } = await keepPatches(area.planId, data.revision, [patch], what);
    if (ok) toast(`${what}. Undo takes it back.`);
    else setError(message);
    await revalidate();
    return ok;
  };
  const keep = async () => {
    setError("");
    const lines = corners.split("\n").filter((line) => line.trim() !== "");
    const places = lines.map(parsePosition);
    const bad = places.indexOf(null);
    if (bad >= 0) return setError(`Corner ${bad + 1}, "${lines[bad]}", is no latitude and longitude.`);
    if (places.length < 3) return setError(`The outline has ${places.length} corners; it needs at least 3.`);
    const ring = places.map((place): [number, number] => [place!.lonDeg, place!.latDeg]);
    const number = (text: string) => Number(text.replace(",", "."));
    const unchanged = corners === cornersText(area);
    const parsed = areaSchema.safeParse({
      ...area,
      name,
      kind,
      heightM: number(heightM),
      density: number(density),
      rings: unchanged ? area.rings : [[...ring, ring[0]!]],
    });
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      return setError(`The ${fieldWord("areas", String(issue.path[0]))} ${plainIssue(issue)}.`);
    }
    await put(parsed.data, `Changed ${name || kind}`);
  };
  return (
    <section className="space-y-2 px-3 py-2" aria-label="Outline">
      <h2 className="font-semibold">{area.name || area.kind}</h2>
      <p className="text-xs text-quiet">
        Goes before what the rasters say of the cover here. Drag its corners on the plan.
      </p>
      <TextField label="Name" value={name} onChange={(event) => setName(event.target.value)} />
      <SelectField label="Stands for" value={kind} onChange={(event) => setKind(event.target.value as Area["kind"])}>
        {COVER_KINDS.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </SelectField>
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Height"
          unit="m"
          value={heightM}
          inputMode="decimal"
          onChange={(event) => setHeightM(event.target.value)}
        />
        <TextField
          label="Density, 0.1 to 1"
          value={density}
          inputMode="decimal"
          onChange={(event) => setDensity(event.target.value)}
        />
      </div>
      <label className="block text-xs text-quiet">
        Corners, latitude and longitude
        <textarea
          rows={6}
          value={corners}
          onChange={(event) => setCorners(event.target.value)}
          className="figures mt-0.5 w-full rounded border border-rule bg-panel px-2 py-1 text-xs text-ink"
        />
      </label>
      {error && (
        <p role="alert" className="text-xs font-medium text-blocked">
          {error}
        </p>
      )}
      <div className="flex gap-1.5">
        <Button look="primary" onClick={() => void keep()}>
          Keep
        </Button>
        <Button
          onClick={async () => {
            if (await put(null, `Took out ${area.name || area.kind}`)) select(null);
          }}
        >
          Take out
        </Button>
      </div>
    </section>
  );
}
