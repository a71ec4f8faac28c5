import { useMemo } from "react";
import { setPatch } from "#core/plan";
import { useSearchParams } from "react-router";
import { CoverageView } from "./coverage/CoverageView";
import { useDesk } from "../../desk/DeskContext";
import { MastView } from "./mast/MastView";
import type { StageManifest } from "../../views/manifest";
import { StageViews } from "../../views/StageViews";
import { SelectField } from "../../ui";
import { BetterView } from "./BetterView";
import { BuildView } from "./BuildView";
import { RoseView } from "./RoseView";
import { chosenOf, sectorsAt, sitesBySectors, spreadOf } from "./scene";
import { SchoolsView } from "./SchoolsView";

import { useAround } from "../../desk/useAround";

/** Where to radiate: a site and its sectors from above, from the side and over the ground, and where further sites would stand. */
export function SectorsStage({ stage: { views } }: { stage: StageManifest }) {
  const { world, draft, selection, select } = useDesk();
  const [parameters] = useSearchParams();
  const asked = parameters.get("view");
  const view = asked !== null && Object.hasOwn(views, asked) ? asked : "rose";
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
        <StageViews views={views} shown={view} />
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
