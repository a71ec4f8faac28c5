import { useState } from "react";
import { Button } from "../ui";

/** Where places come from: a file, or rows that are pasted. */
export function PlacesSource({ onLoad }: { onLoad: (source: ArrayBuffer | string, name: string) => Promise<void> }) {
  const [pasted, setPasted] = useState("");
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <div className="rounded border border-rule bg-panel p-3">
        <label className="mb-1 block text-sm font-semibold" htmlFor="places-file">
          Places file
        </label>
        <p className="mb-2 text-xs text-quiet">
          CSV, GeoJSON, KML, KMZ or GPX. Positions in decimal degrees, degrees and minutes, or UTM.
        </p>
        <input
          id="places-file"
          type="file"
          accept=".csv,.txt,.tsv,.geojson,.json,.kml,.kmz,.gpx"
          onChange={async (event) => {
            const file = event.target.files?.[0];
            if (file) await onLoad(await file.arrayBuffer(), file.name);
          }}
          className="block w-full text-sm file:mr-3 file:rounded file:border file:border-rule file:bg-panel file:px-2.5 file:py-1 file:text-ink"
        />
      </div>
      <div className="rounded border border-rule bg-panel p-3">
        <label className="mb-1 block text-sm font-semibold" htmlFor="pasted">
          Or paste rows
        </label>
        <textarea
          id="pasted"
          rows={2}
          value={pasted}
          onChange={(event) => setPasted(event.target.value)}
          placeholder={"Casa Nueva; -37.61 -30.21"}
          className="figures w-full rounded border border-rule bg-panel px-2 py-1 text-xs"
        />
        <Button disabled={pasted.trim() === ""} onClick={() => void onLoad(pasted, "pasted text")}>
          Read the text
        </Button>
      </div>
    </div>
  );
}
