import { accessLinks, sectorLoad, usualDemand, type SectorLoad } from "#core/capacity";
import { shortFigure } from "#core/words";
import { useMemo } from "react";
import { useDesk } from "../../desk/DeskContext";
import { placeNameOf } from "../../desk/names";
import { figure, Table, Term } from "../../ui";
import { SectorLoadSheet } from "./SectorLoadSheet";
import { busyWords, fullWhen, percent } from "./words";

const NUMBER = "figures text-right whitespace-nowrap";
const fuller = ({ down, up }: SectorLoad) => Math.max(down, up);

/** Every sector's time at the busy hour, fullest first, and the chosen one in full. */
export function LoadsView() {
  const { world, summaries, selection, select } = useDesk();
  const usual = useMemo(() => usualDemand(world), [world]);
  const bySector = useMemo(() => accessLinks(world), [world]);
  const loads = useMemo(
    () =>
      [...world.radios.values()]
        .filter(({ role }) => role === "sector")
        .map(({ id }) => sectorLoad(world, id, bySector.get(id) ?? [], summaries, usual))
        .sort((x, y) => fuller(y) - fuller(x)),
    [world, bySector, summaries, usual],
  );
  const selectedSector =
    selection?.kind === "radio"
      ? selection.id
      : selection?.kind === "link"
        ? world.links.get(selection.id)?.aRadioId
        : undefined;
  const shown = loads.find(({ radioId }) => radioId === selectedSector) ?? loads[0];
  const { oversubscription, growthPercent } = world.plan;
  if (!shown)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        No sector serves anybody yet: under Sectors, choose a site and see which sectors it could carry.
      </p>
    );
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <p className="text-xs text-quiet">
        {busyWords(oversubscription)}{" "}
        {usual
          ? `The usual customer asks for ${figure(usual.downMbps, 0)}/${figure(usual.upMbps, 0)} Mbit/s.`
          : "Nobody asks for anything yet."}
        {growthPercent > 0 ? ` Demand grows ${shortFigure(growthPercent)} % a year.` : ""}
      </p>
      <div
        className="mt-2 max-h-56 overflow-auto border-b border-rule"
        tabIndex={0}
        role="region"
        aria-label="Sectors by load"
      >
        <Table
          caption="Sectors by load"
          columns={[
            { name: "Sector" },
            { name: "Time toward, from", isNumber: true },
            { name: "Customers", isNumber: true },
            { name: "Slow ones", isNumber: true },
            { name: "Room for", isNumber: true },
            ...(growthPercent > 0 ? [{ name: "Growth" }] : []),
          ]}
        >
          {loads.map((load) => (
            <tr key={load.radioId} data-load={load.radioId} className={load === shown ? "bg-panel font-semibold" : ""}>
              <td>
                <button
                  type="button"
                  className="text-left text-clay underline"
                  onClick={() => select({ kind: "radio", id: load.radioId })}
                >
                  {world.radios.get(load.radioId)!.name}
                </button>
                <span className="ml-1 text-xs font-normal text-quiet">{placeNameOf(world, load.radioId)}</span>
              </td>
              <td className={`${NUMBER} ${fuller(load) > 1 ? "text-blocked" : ""}`}>
                {percent(load.down)}, {percent(load.up)}
              </td>
              <td
                className={`${NUMBER} ${load.customers.length + load.unreached > load.mostCustomers ? "text-blocked" : ""}`}
              >
                {load.customers.length + load.unreached} of {load.mostCustomers}
              </td>
              <td className={NUMBER}>{load.customers.filter(({ isSlow }) => isSlow).length || "–"}</td>
              <td className={NUMBER}>
                <Term meaning="More customers of the usual kind, each at the middle rate of those who are there, by the time left in the fuller direction and by the radio's limit.">
                  {load.freeCustomers === null ? "–" : `${load.freeCustomers} more`}
                </Term>
              </td>
              {growthPercent > 0 && <td className="whitespace-nowrap">{fullWhen(fuller(load), growthPercent)}</td>}
            </tr>
          ))}
        </Table>
      </div>
      <SectorLoadSheet key={shown.radioId} load={shown} bySector={bySector} />
    </div>
  );
}
