import { putPatch, removePatch, setPatch, type Area, type Overlay, type Patch } from "#core/plan";
import { COVER_KINDS } from "#core/terrain";
import type { RowError } from "#formats/places";
import { toldOf } from "#formats/refused";
import { wrap, type Remote } from "comlink";
import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { Button, SelectField, TextField } from "../ui";
import { ErrorTable } from "./ErrorTable";
import { keepPatches } from "../keep/keepPatches";
import ShapesReader from "./shapes.worker?worker";
import type { ShapesWorker } from "./shapes.worker";

/** Outlines with a height, to stand in the way of paths, or lines and areas that are only shown. */
export function ShapesImport({
  planId,
  revision,
  areaCount,
  overlays,
}: {
  planId: string;
  revision: number;
  areaCount: number;
  overlays: Overlay[];
}) {
  const reader = useRef<Remote<ShapesWorker> | null>(null);
  useEffect(() => {
    const worker = new ShapesReader();
    reader.current = wrap<ShapesWorker>(worker);
    return () => worker.terminate();
  }, []);
  const { revalidate } = useRevalidator();
  const [file, setFile] = useState<{ name: string; count: number; properties: string[] } | null>(null);
  const [kind, setKind] = useState<Area["kind"]>("building");
  const [property, setProperty] = useState("");
  const [heightM, setHeightM] = useState("8");
  const [density, setDensity] = useState("1");
  const [message, setMessage] = useState<{ ok: boolean; text: string } | null>(null);
  const [errors, setErrors] = useState<RowError[]>([]);
  const [busy, setBusy] = useState(false);

  const attempt = async (work: () => Promise<void>) => {
    setBusy(true);
    setMessage(null);
    setErrors([]);
    try {
      await work();
    } catch (error) {
      setMessage({ ok: false, text: `${file?.name ?? "The file"}: ${toldOf(error)} Nothing was kept.` });
    }
    setBusy(false);
  };
  const keep = async (patches: Patch[], what: string) => {
    const answer = await keepPatches(planId, revision, patches, what);
    setMessage({ ok: answer.ok, text: answer.ok ? `${what}. Undo takes it back.` : answer.message });
    await revalidate();
  };
  const takeAreas = () =>
    attempt(async () => {
      const number = (text: string) => Number(text.replace(",", "."));
      const read = await reader.current!.areas({
        planId,
        kind,
        heightProperty: property === "" ? null : property,
        heightM: number(heightM),
        density: number(density),
      });
      setErrors(read.errors);
      if (read.areas.length === 0) throw new Error("no outline could be taken");
      await keep(
        read.areas.map((row) => putPatch("areas", row)),
        `Imported ${read.areas.length} outlines from ${file!.name}`,
      );
    });
  const takeOverlay = () =>
    attempt(async () => {
      const geojson = await reader.current!.overlay();
      const id = crypto.randomUUID();
      const row: Overlay = { id, planId, name: file!.name.slice(0, 120), geojson, shown: true };
      await keep([putPatch("overlays", row)], `Added the overlay ${row.name}`);
    });
  const putOverlay = (overlay: Overlay, set: Partial<Overlay> | null, what: string) =>
    attempt(() => keep([set ? setPatch("overlays", overlay.id, set) : removePatch("overlays", overlay.id)], what));

  return (
    <section aria-label="Outlines and overlays" className="space-y-4">
      <div className="rounded border border-rule bg-panel p-3">
        <label className="mb-1 block text-sm font-semibold" htmlFor="shapes">
          Lines and areas
        </label>
        <p className="mb-2 text-xs text-quiet">
          GeoJSON, KML or GPX. The plan has {areaCount} outlines of woods and buildings; more can be drawn on the map
          under Survey.
        </p>
        <input
          id="shapes"
          type="file"
          accept=".geojson,.json,.kml,.gpx"
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            if (!chosen) return;
            void attempt(async () => {
              const loaded = await reader.current!.load(await chosen.arrayBuffer());
              setFile({ name: chosen.name, ...loaded });
              setProperty(loaded.properties.find((name) => /height|höhe|hoehe|altura|^h$/i.test(name)) ?? "");
            });
          }}
          className="block w-full text-sm file:mr-3 file:rounded file:border file:border-rule file:bg-panel file:px-2.5 file:py-1 file:text-ink"
        />
        {file && (
          <>
            <p className="mt-2 text-sm">
              <strong>{file.name}</strong>: {file.count} features.
            </p>
            <div className="mt-2 grid grid-cols-2 gap-3 sm:grid-cols-4">
              <SelectField
                label="Outlines are"
                value={kind}
                onChange={(event) => setKind(event.target.value as Area["kind"])}
              >
                {COVER_KINDS.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </SelectField>
              <SelectField
                label="Height stands in"
                value={property}
                onChange={(event) => setProperty(event.target.value)}
              >
                <option value="">nowhere</option>
                {file.properties.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </SelectField>
              <TextField
                label="Height where not said"
                unit="m"
                value={heightM}
                onChange={(event) => setHeightM(event.target.value)}
              />
              <TextField
                label="Density of trees, 0.1 to 1"
                value={density}
                onChange={(event) => setDensity(event.target.value)}
              />
            </div>
            <div className="mt-3 flex gap-2">
              <Button look="primary" disabled={busy} onClick={() => void takeAreas()}>
                Take as obstacles
              </Button>
              <Button disabled={busy} onClick={() => void takeOverlay()}>
                Only show them
              </Button>
            </div>
          </>
        )}
      </div>
      {message && (
        <p
          role={message.ok ? "status" : "alert"}
          className={`rounded border p-3 text-sm font-medium ${message.ok ? "border-clear" : "border-blocked"}`}
        >
          {message.text}
        </p>
      )}
      <ErrorTable errors={errors} rowName="Feature" />
      {overlays.length > 0 && (
        <table className="w-full rounded border border-rule bg-panel text-[13px]">
          <caption className="mb-1 text-left text-sm font-semibold">Own overlays</caption>
          <tbody>
            {overlays.map((overlay) => (
              <tr key={overlay.id} className="border-b border-rule">
                <td className="px-2 py-1">{overlay.name}</td>
                <td>
                  <label className="flex items-center gap-1.5">
                    <input
                      type="checkbox"
                      checked={overlay.shown}
                      onChange={() =>
                        void putOverlay(
                          overlay,
                          { ...overlay, shown: !overlay.shown },
                          `${overlay.shown ? "Hid" : "Showed"} ${overlay.name}`,
                        )
                      }
                      className="accent-[var(--clay)]"
                    />
                    shown
                  </label>
                </td>
                <td className="py-0.5 pr-2 text-right">
                  <Button
                    className="text-xs"
                    onClick={() => void putOverlay(overlay, null, `Took out ${overlay.name}`)}
                  >
                    Take out
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
