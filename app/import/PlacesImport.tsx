import { counted } from "#core/words";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { PlanMap } from "../map/PlanMap";
import type { PlanMapProps } from "../map/types";
import { Button, buttonClass } from "../ui";
import { PlacesMapping } from "./PlacesMapping";
import { PlacesSource } from "./PlacesSource";
import { PreviewTable, VERDICT_WORDS } from "./PreviewTable";
import type { PreviewRow } from "./places.worker";
import { usePlacesImport } from "./usePlacesImport";

const NO_LINKS: PlanMapProps["links"] = [];
const VERDICTS = ["new", "changed", "duplicate", "rejected", "same"] as const;

/** Places from a file or pasted text: read in a worker, mapped, held against the plan, looked over, and only then kept. */
export function PlacesImport({ planId, terrain }: { planId: string; terrain: PlanMapProps["terrain"] }) {
  const importing = usePlacesImport(planId);
  const { table, mapping, rows, density, counts, chosen, toggle, busy, result, load, mend, keep, downloadRejected } =
    importing;
  const [filter, setFilter] = useState<PreviewRow["verdict"] | "all">("all");
  const [highlighted, setHighlighted] = useState<number | null>(null);

  const shown = useMemo(
    () => (filter === "all" ? rows : rows.filter(({ verdict }) => verdict === filter)),
    [rows, filter],
  );
  const onMap = useMemo(() => {
    if (density.length > 0) return { sites: [], subscribers: [] };
    const places = rows.flatMap(({ row, kind, name: label, latDeg, lonDeg, verdict }) =>
      latDeg === null
        ? []
        : [{ id: String(row), name: label, kind, place: { latDeg, lonDeg: lonDeg! }, linked: verdict !== "new" }],
    );
    return {
      sites: places.filter(({ kind }) => kind === "site"),
      subscribers: places.filter(({ kind }) => kind !== "site"),
    };
  }, [rows, density]);

  return (
    <section aria-label="Places" className="space-y-4">
      {result && (
        <p
          role={result.ok ? "status" : "alert"}
          className={`rounded border p-3 text-sm font-medium ${result.ok ? "border-clear" : "border-blocked"}`}
        >
          {result.message}{" "}
          {result.ok && (
            <Link to={`/plans/${planId}/survey`} className={`ml-2 ${buttonClass("primary")}`}>
              To the survey
            </Link>
          )}
        </p>
      )}
      <PlacesSource onLoad={load} />
      <p role="status" className="h-4 text-xs text-quiet">
        {busy}
      </p>
      {table && (
        <>
          <PlacesMapping importing={importing} />
          {rows.length > 0 && (
            <div className="h-64 overflow-hidden rounded border border-rule">
              <PlanMap
                planId={planId}
                terrain={terrain}
                sites={onMap.sites}
                subscribers={onMap.subscribers}
                density={density}
                fitsPlaces
                links={NO_LINKS}
                selected={null}
                onPick={(pick) => setHighlighted(pick ? Number(pick.id) : null)}
                cursor={null}
                onPathHover={() => undefined}
              />
            </div>
          )}
          <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Show rows">
            {(["all", ...VERDICTS] as const).map((one) => (
              <Button
                key={one}
                aria-pressed={filter === one}
                onClick={() => setFilter(one)}
                className={filter === one ? "border-clay text-clay" : ""}
              >
                {one === "all"
                  ? `all ${rows.length}`
                  : `${VERDICT_WORDS[one].glyph} ${counts[one]} ${VERDICT_WORDS[one].word}`}
              </Button>
            ))}
            <span className="ml-auto flex gap-1.5">
              {counts.rejected > 0 && <Button onClick={() => void downloadRejected()}>Download rejected rows</Button>}
              <Button look="primary" disabled={busy !== "" || chosen.size === 0} onClick={() => void keep()}>
                Keep {counted(chosen.size, "place")}
              </Button>
            </span>
          </div>
          <PreviewTable
            rows={shown}
            chosen={chosen}
            mapping={mapping}
            highlighted={highlighted}
            onToggle={toggle}
            onMend={(row, column, value) => void mend(row, column, value)}
          />
        </>
      )}
    </section>
  );
}
