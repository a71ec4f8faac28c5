import type { Radio, Site } from "#core/plan";
import { recommended, SCHOOL_WORDS, type SchoolTried } from "#core/schools";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { Asked } from "../../ask/Asked";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { Button, euros, figure, freeSight, NumberField, Table, Term } from "../../ui";
import { GainsView } from "./GainsView";
import { StagesView } from "./StagesView";

/** The schools side by side on one site, each worked out on its customers; one is taken in hand. */
export function SchoolsView({
  site,
  sector,
  farthestM,
}: {
  site: Site;
  /** The chosen sector, of which gain by range is told, and its farthest customer. */
  sector: Radio | null;
  farthestM: number | null;
}) {
  const { data, draft } = useDesk();
  const [radiusKm, setRadiusKm] = useState(5);
  const view = useView<SchoolTried>(data.world.plan.id, draft.patches, {
    kind: "schools",
    siteId: site.id,
    radiusM: radiusKm * 1000,
  });
  const best = useMemo(() => view.rows && recommended(view.rows), [view.rows]);
  const take = (option: SchoolTried) => {
    draft.put(option.patches);
    toast(
      `${SCHOOL_WORDS[option.school].name} is in hand: look at the rose and the coverage, then keep or discard it.`,
    );
  };
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <div className="flex items-end gap-3">
        <div className="w-28">
          <NumberField
            label="Customers within"
            unit="km"
            value={radiusKm}
            step={1}
            min={1}
            max={40}
            decimals={0}
            onChange={setRadiusKm}
          />
        </div>
        <p className="pb-1 text-xs text-quiet">
          Whom no other site serves. Each way is worked out by full answers of every link, in the noise that the plan
          would then make.
        </p>
      </div>
      {best && (
        <p className="mt-3 rounded border border-rule bg-panel p-2" data-recommended={best.option.school}>
          {best.why}
        </p>
      )}
      <Asked
        view={view}
        waiting="Trying every way…"
        none={`Nobody stands within ${radiusKm} km whom no other site serves, or the library has no kit for a sector.`}
      >
        {(rows) => (
          <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Schools side by side">
            <Table
              caption={`Ways to serve the customers round ${site.name}`}
              columns={[
                { name: "School" },
                { name: "Served", isNumber: true },
                { name: "Mbit/s, middle", isNumber: true },
                { name: "Airtime, busiest", isNumber: true },
                { name: "Lit for nobody", isNumber: true },
                { name: "Cost, mounts", isNumber: true },
                { name: "Heard beyond, noise heard", isNumber: true },
                { name: "Take", isHidden: true },
              ]}
            >
              {rows.map((row) => (
                <tr
                  key={row.school}
                  className={best?.option === row ? "bg-panel font-semibold" : ""}
                  data-school={row.school}
                >
                  <td>
                    <Term meaning={SCHOOL_WORDS[row.school].meaning}>{SCHOOL_WORDS[row.school].name}</Term>
                    <span className="block text-xs font-normal text-quiet">
                      {row.headings
                        .map(({ azimuthDeg }) => (azimuthDeg === null ? "all round" : `${azimuthDeg}°`))
                        .join(", ")}{" "}
                      · {row.headings[0]?.antenna}
                    </span>
                  </td>
                  <td className="figures text-right whitespace-nowrap">
                    {row.customersServed}/{row.customersAsked}
                    <span className="block font-sans text-xs font-normal text-quiet">{row.peopleServed} people</span>
                  </td>
                  <td className="figures text-right whitespace-nowrap">
                    {row.medianMbps === null ? "–" : figure(row.medianMbps, 0)}
                  </td>
                  <td className="figures text-right whitespace-nowrap">{figure(row.busiestAirtime * 100, 0)} %</td>
                  <td className="figures text-right whitespace-nowrap">
                    {figure(row.idleKm2, 1)} km²
                    <span className="block font-sans text-xs font-normal text-quiet">
                      {row.idleDeg}° of {row.litDeg}°
                    </span>
                  </td>
                  <td className="figures text-right whitespace-nowrap">
                    {euros(row.costEur)}
                    <span className="block font-sans text-xs font-normal text-quiet">
                      {row.mounts} on, {row.mountsLeft >= 0 ? `${row.mountsLeft} left` : `${-row.mountsLeft} too many`}
                    </span>
                  </td>
                  <td className="figures text-right whitespace-nowrap">
                    {row.heardBeyondKm === null ? "–" : freeSight(row.heardBeyondKm)}
                    <span className="block font-sans text-xs font-normal text-quiet">
                      noise +{figure(row.noiseHeardDb)} dB
                    </span>
                  </td>
                  <td>
                    <Button
                      className="px-1.5 py-0 text-xs"
                      aria-label={`Take in hand: ${SCHOOL_WORDS[row.school].name}`}
                      onClick={() => take(row)}
                      disabled={row.patches.length === 0}
                    >
                      Take
                    </Button>
                  </td>
                </tr>
              ))}
            </Table>
          </div>
        )}
      </Asked>
      <StagesView site={site} />
      {sector && <GainsView sector={sector} farthestM={farthestM} />}
    </div>
  );
}
