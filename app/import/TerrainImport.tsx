import type { Layer } from "#core/plan";
import type { JobView } from "#jobs";
import { useCallback, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { Button, TextField } from "../ui";
import { JobProgress } from "../ask/JobProgress";
import { LayerTable } from "./LayerTable";
import { LegendEditor, USUAL_LEGEND, type LegendRow } from "./LegendEditor";
import { upload } from "../ask/upload";
import { useJob } from "../ask/useJob";
import { requestJson } from "../ask/request";

const KINDS: { kind: Layer["kind"]; title: string; note: string }[] = [
  { kind: "bare", title: "Bare ground", note: "Heights without trees and roofs. Cover is put on top of them." },
  {
    kind: "surface",
    title: "Surface, with trees and roofs",
    note: "Nothing is put on top of it: that would count trees twice. Heights of antennas are above what it shows.",
  },
  { kind: "cover", title: "Land cover", note: "Classes, not heights: what stands on the ground, by your legend." },
];

/** Rasters into the plan: sent to the server as they are and read there beside everything else, with progress. */
export function TerrainImport({ planId, revision, layers }: { planId: string; revision: number; layers: Layer[] }) {
  const [files, setFiles] = useState<File[]>([]);
  const [kind, setKind] = useState<Layer["kind"] | null>(null);
  const [epsg, setEpsg] = useState("");
  const [legend, setLegend] = useState<LegendRow[]>(USUAL_LEGEND);
  const [sending, setSending] = useState<{ share: number; name: string } | null>(null);
  const [error, setError] = useState("");
  const stopSending = useRef<AbortController | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const { revalidate } = useRevalidator();
  const onEnd = useCallback(
    (job: JobView) => {
      if (job.state !== "done") return;
      setFiles([]);
      if (input.current) input.current.value = "";
      void revalidate();
    },
    [revalidate],
  );
  const { job, follow, stop } = useJob(`/plans/${planId}/jobs`, onEnd);

  const start = async () => {
    setError("");
    const stopper = (stopSending.current = new AbortController());
    try {
      const sent: { uploadId: string; name: string }[] = [];
      for (const file of files) {
        const uploadId = await upload(file, (share) => setSending({ share, name: file.name }), stopper.signal);
        sent.push({ uploadId, name: file.name });
      }
      const number = (text: string) => Number(text.trim().replace(",", "."));
      const body = {
        kind,
        files: sent,
        epsg: epsg.trim() === "" ? null : number(epsg),
        legend:
          kind === "cover"
            ? legend.map((row) => ({
                value: number(row.value),
                kind: row.kind,
                heightM: number(row.heightM),
                density: number(row.density),
              }))
            : null,
      };
      follow(await requestJson<JobView>(`/plans/${planId}/terrain`, { body }));
    } catch (failure) {
      setError(`${(failure as Error).message}. The terrain stays as it was.`);
    }
    setSending(null);
  };
  const busy = sending !== null || job?.state === "running";

  return (
    <section aria-label="Terrain and cover" className="space-y-4">
      <LayerTable planId={planId} revision={revision} layers={layers} />
      <div className="rounded border border-rule bg-panel p-3">
        <label className="mb-1 block text-sm font-semibold" htmlFor="rasters">
          Raster files
        </label>
        <p className="mb-2 text-xs text-quiet">
          GeoTIFF, SRTM tiles (.hgt, zipped too), ESRI ASCII grids; several at once. Where rasters overlap the finest
          wins, and a coarser one fills the holes of a finer.
        </p>
        <input
          ref={input}
          id="rasters"
          type="file"
          multiple
          accept=".tif,.tiff,.hgt,.zip,.asc,.grd,.txt"
          onChange={(event) => setFiles([...(event.target.files ?? [])])}
          className="block w-full text-sm file:mr-3 file:rounded file:border file:border-rule file:bg-panel file:px-2.5 file:py-1 file:text-ink"
        />
        <fieldset className="mt-3">
          <legend className="text-sm font-semibold">What do their values say?</legend>
          {KINDS.map((one) => (
            <label key={one.kind} className="mt-1 flex items-baseline gap-2 text-sm">
              <input
                type="radio"
                name="kind"
                checked={kind === one.kind}
                onChange={() => setKind(one.kind)}
                className="accent-[var(--clay)]"
              />
              <span>
                {one.title} <span className="text-xs text-quiet">{one.note}</span>
              </span>
            </label>
          ))}
        </fieldset>
        {kind === "cover" && (
          <div className="mt-3">
            <LegendEditor rows={legend} onChange={setLegend} />
          </div>
        )}
        <div className="mt-3 flex items-end gap-3">
          <div className="w-64">
            <TextField
              label="EPSG code, for text grids in metres"
              value={epsg}
              placeholder="degrees"
              inputMode="numeric"
              onChange={(event) => setEpsg(event.target.value)}
            />
          </div>
          <Button look="primary" disabled={busy || files.length === 0 || kind === null} onClick={() => void start()}>
            Import {files.length > 1 ? `${files.length} rasters` : "the raster"}
          </Button>
          {files.length > 0 && kind === null && (
            <span className="text-xs text-quiet">Say first whether trees and roofs are in the heights.</span>
          )}
        </div>
      </div>
      {error && (
        <p role="alert" className="rounded border border-blocked p-3 text-sm font-medium">
          {error}
        </p>
      )}
      {sending && (
        <JobProgress
          job={{ title: "Sending", message: `Sending ${sending.name}`, doneShare: sending.share, state: "running" }}
          onStop={() => stopSending.current?.abort()}
        />
      )}
      {job && <JobProgress job={job} onStop={stop} />}
    </section>
  );
}
