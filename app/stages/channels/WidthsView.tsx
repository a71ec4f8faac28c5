import { advisedWidth, type WidthRow } from "#core/channels";
import { Asked } from "../../ask/Asked";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { Button, figure, Table } from "../../ui";
import { NoSector, SectorChoice, useChosenSector } from "./SectorChoice";

const NUMBER = "figures text-right whitespace-nowrap";

/** Every width of one sector side by side: what it carries, what it hears, whom it slows. */
export function WidthsView() {
  const { data, draft } = useDesk();
  const { sectors, sector } = useChosenSector();
  const view = useView<WidthRow>(
    data.world.plan.id,
    draft.patches,
    sector ? { kind: "widths", radioId: sector.id } : null,
  );
  if (!sector) return <NoSector />;
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <div className="flex flex-wrap items-end gap-3">
        <SectorChoice sectors={sectors} sector={sector} />
        <p className="flex-1 pb-1 text-xs text-quiet">
          Twice the width carries twice as much and hears 3 dB more noise, and takes spectrum from neighbours. Each
          width stands on the quiet channel that serves most and slows fewest; every customer is answered in full.
        </p>
      </div>
      <Asked
        view={view}
        waiting="Trying every width on several channels…"
        none="No width of this sector is known to all its customers."
      >
        {(rows) => {
          const advised = advisedWidth(rows)!;
          return (
            <>
              <p className="mt-2 rounded border border-rule bg-panel p-2" data-advised={advised.row.widthMHz}>
                {advised.row.isNow
                  ? `${advised.row.widthMHz} MHz, as it is planned`
                  : `${advised.row.widthMHz} MHz at ${advised.row.frequencyMHz} MHz`}
                : {advised.why}.
              </p>
              <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Widths compared">
                <Table
                  caption={`Widths for ${sector.name}`}
                  columns={[
                    { name: "Width" },
                    { name: "At", isNumber: true },
                    { name: "Time asked for", isNumber: true },
                    { name: "Served", isNumber: true },
                    { name: "Usual rate", isNumber: true },
                    { name: "Least SNR", isNumber: true },
                    { name: "Slows", isNumber: true },
                    { name: "Take", isHidden: true },
                  ]}
                >
                  {rows.map((row) => (
                    <tr
                      key={row.widthMHz}
                      data-width={row.widthMHz}
                      className={row === advised.row ? "bg-panel font-semibold" : ""}
                    >
                      <td className="whitespace-nowrap">
                        {row.widthMHz} MHz
                        {row.isNow && <span className="ml-1 text-xs font-normal text-quiet">planned</span>}
                      </td>
                      <td className={NUMBER}>{row.frequencyMHz} MHz</td>
                      <td className={`${NUMBER} ${row.load > 1 ? "text-blocked" : ""}`}>
                        {figure(row.load * 100, 0)} %
                      </td>
                      <td className={NUMBER}>
                        {row.served} of {row.customers}
                      </td>
                      <td className={NUMBER}>{figure(row.medianMbps, 0)} Mbit/s</td>
                      <td className={NUMBER}>{row.leastSnrDb === null ? "–" : `${figure(row.leastSnrDb)} dB`}</td>
                      <td className={NUMBER}>
                        {row.slowed === 0 ? "nobody" : `${row.slowed} ${row.slowed === 1 ? "link" : "links"}`}
                      </td>
                      <td>
                        {!row.isNow && (
                          <Button
                            className="px-1.5 py-0 text-xs"
                            aria-label={`Take ${row.widthMHz} MHz in hand`}
                            onClick={() => draft.put(row.patches)}
                          >
                            Take
                          </Button>
                        )}
                      </td>
                    </tr>
                  ))}
                </Table>
              </div>
            </>
          );
        }}
      </Asked>
    </div>
  );
}
