import { useMemo } from "react";
import { setPatch } from "#core/plan";
import { useSearchParams } from "react-router";
import { CoverageView } from "../coverage/CoverageView";
import { useDesk } from "../desk/DeskContext";
import { MastView } from "../mast/MastView";
import { Button, NumberField, SelectField } from "../ui";
import { BetterView } from "./BetterView";
import { BuildView } from "./BuildView";
import { RoseView } from "./RoseView";
import { chosenOf, sectorsAt, sitesBySectors, spreadOf } from "./scene";
import { SchoolsView } from "./SchoolsView";
import { useAround } from "./useAround";

const VIEWS = ["rose", "coverage", "schools", "better", "mast", "build"] as const;
type View = (typeof VIEWS)[number];
const VIEW_WORDS: Record<View, string> = {
  rose: "Rose",
  coverage: "Coverage",
  schools: "Ways to serve",
  better: "Improve",
  mast: "Mast",
  build: "Build",
};
const isView = (asked: string | null): asked is View => VIEWS.includes(asked as View);

/** Where to radiate: a site and its sectors from above, from the side and over the ground, and where further sites would stand. */
export function SectorsStage() {
  const { world, draft, selection, select } = useDesk();
  const [parameters, setParameters] = useSearchParams();
  const asked = parameters.get("view");
  const view: View = isView(asked) ? asked : "rose";
  const setView = (next: View) =>
    setParameters((before) => {
      const after = new URLSearchParams(before);
      // A search belongs to the view that began it.
      after.delete("search");
      if (next === "rose") after.delete("view");
      else after.set("view", next);
      return after;
    });
  const sites = useMemo(() => sitesBySectors(world), [world]);
  const chosen = chosenOf(world, selection);
  const site = world.sites.get(chosen.siteId ?? sites[0]?.id ?? "");
  const sectors = useMemo(() => (site ? sectorsAt(world, site.id) : []), [world, site]);
  const sector = sectors.find(({ id }) => id === chosen.radioId) ?? sectors[0] ?? null;
  const seen = useAround(site?.id ?? null);
  const heardBy = useMemo(() => new Map(seen.around?.heard), [seen.around]);
  const ofSector = (radioId: string) =>
    [...seen.customers.values()].filter(({ linkId }) => world.links.get(linkId)?.aRadioId === radioId);
  const turn = (radioId: string, azimuthDeg: number) => draft.put([setPatch("radios", radioId, { azimuthDeg })]);
  if (!site && view !== "build")
    return (
      <p className="p-8 text-center text-sm text-quiet">
        There is no site yet: add one under Survey, then put a sector on it.
      </p>
    );
  return (
    <div className="flex h-full flex-col">
      <div className="flex flex-wrap items-end gap-2 border-b border-rule bg-panel px-3 py-1.5">
        <div role="group" aria-label="View" className="flex flex-wrap gap-1 self-end pb-0.5">
          {VIEWS.map((one) => (
            <Button
              key={one}
              aria-pressed={view === one}
              className={`px-2 text-xs ${view === one ? "border-clay text-clay" : ""}`}
              onClick={() => setView(one)}
            >
              {VIEW_WORDS[one]}
            </Button>
          ))}
        </div>
        {site && view !== "build" && view !== "better" && (
          <div className="w-52">
            <SelectField
              label="Site"
              value={site.id}
              onChange={(event) => select({ kind: "site", id: event.target.value })}
            >
              {sites.map(({ id, name, sectors: count, customers: linked }) => (
                <option key={id} value={id}>
                  {`${name} – ${count === 0 ? "no sector" : `${count} ${count === 1 ? "sector" : "sectors"}, ${linked} linked`}`}
                </option>
              ))}
            </SelectField>
          </div>
        )}
        {sector && sector.azimuthDeg !== null && view === "rose" && (
          <div className="w-32">
            <NumberField
              label="Its heading"
              unit="° true"
              value={sector.azimuthDeg}
              step={1}
              min={0}
              max={359}
              decimals={0}
              onChange={(azimuthDeg) => turn(sector.id, azimuthDeg)}
            />
          </div>
        )}
      </div>
      <div className="min-h-0 flex-1">
        {view === "build" || !site ? (
          <BuildView />
        ) : view === "better" ? (
          <BetterView sites={sites} siteId={site.id} />
        ) : view === "schools" ? (
          <SchoolsView site={site} sector={sector} farthestM={sector && spreadOf(ofSector(sector.id)).farthestM} />
        ) : view === "mast" ? (
          <MastView site={site} />
        ) : view === "coverage" && sector ? (
          <CoverageView site={site} sector={sector} sectors={sectors} heardBy={heardBy} />
        ) : (
          <RoseView
            siteId={site.id}
            sectors={sectors}
            sector={sector}
            seen={seen}
            customersOf={ofSector}
            onTurn={turn}
          />
        )}
      </div>
    </div>
  );
}
