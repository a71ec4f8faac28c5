import { setPatch, type Radio } from "#core/plan";
import type { GainRow } from "#core/sectors";
import { Asked } from "../../ask/Asked";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { Button, euros, figure, freeSight, Table } from "../../ui";

const NUMBER = "figures text-right whitespace-nowrap";

/** Gain by range: every antenna a sector could carry at the least power that serves as many, and how far each hears and is heard. */
export function GainsView({ sector, farthestM }: { sector: Radio; farthestM: number | null }) {
  const { data, draft } = useDesk();
  const view = useView<GainRow>(data.world.plan.id, draft.patches, { kind: "gains", radioId: sector.id });
  return (
    <section className="mt-5" aria-label="Gain by range">
      <h3 className="font-semibold">Gain by range: {sector.name}</h3>
      <p className="text-xs text-quiet">
        Each antenna at the least power at which it serves as many people as at any. Power can be turned down; what
        receive gain hears cannot.
        {farthestM !== null && ` The farthest customer is at ${figure(farthestM / 1000)} km.`} Distances in free sight.
      </p>
      <Asked view={view} waiting="Trying every antenna…" none="Nobody is linked to this sector yet.">
        {(rows) => {
          const most = Math.max(...rows.map(({ peopleServed }) => peopleServed));
          const able = rows.filter(({ peopleServed }) => peopleServed === most);
          // What lights all round is the least only where nothing else does.
          const least = able.find(({ widthDeg }) => widthDeg < 360) ?? able[0];
          return (
            <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Antennas by gain">
              <Table
                caption={`Antennas for ${sector.name} by gain`}
                columns={[
                  { name: "Antenna" },
                  { name: "Gain", isNumber: true },
                  { name: "Power, of at most", isNumber: true },
                  { name: "People", isNumber: true },
                  { name: "Weakest margin", isNumber: true },
                  { name: "Hears", isNumber: true },
                  { name: "Is heard", isNumber: true },
                  { name: "Price", isNumber: true },
                  { name: "Take", isHidden: true },
                ]}
              >
                {rows.map((row) => (
                  <tr key={row.antennaModelId} className={row === least ? "bg-panel font-semibold" : ""}>
                    <td>
                      {row.antenna}
                      <span className="block text-xs font-normal text-quiet">
                        {row.widthDeg < 360 ? `${figure(row.widthDeg, 0)}° wide at −6 dB` : "all round"}
                      </span>
                      {row.antennaModelId === sector.antennaModelId && (
                        <span className="block text-xs font-normal text-quiet">
                          planned at {figure(sector.txPowerDbm, 0)} dBm
                        </span>
                      )}
                      {row === least && (
                        <span className="block text-xs font-normal text-quiet">the least that serves as many</span>
                      )}
                    </td>
                    <td className={NUMBER}>{figure(row.gainDbi)} dBi</td>
                    <td className={NUMBER}>
                      {figure(row.txPowerDbm, 0)} of {figure(row.mostDbm, 0)} dBm
                    </td>
                    <td className={NUMBER}>{row.peopleServed}</td>
                    <td className={NUMBER}>
                      {row.weakestMarginDb === null ? "–" : `${figure(row.weakestMarginDb)} dB`}
                    </td>
                    <td className={NUMBER}>{freeSight(row.hearsKm)}</td>
                    <td className={NUMBER}>{freeSight(row.heardKm)}</td>
                    <td className={NUMBER}>
                      {row.costEur === 0 ? "same" : `${row.costEur > 0 ? "+" : "−"}${euros(Math.abs(row.costEur))}`}
                    </td>
                    <td>
                      <Button
                        className="px-1.5 py-0 text-xs"
                        aria-label={`Take ${row.antenna} at ${figure(row.txPowerDbm, 0)} dBm in hand`}
                        onClick={() =>
                          draft.put([
                            setPatch("radios", sector.id, {
                              antennaModelId: row.antennaModelId,
                              txPowerDbm: row.txPowerDbm,
                              ...(sector.tiltDownDeg === null ? {} : { tiltDownDeg: row.mechanicalDeg }),
                            }),
                          ])
                        }
                      >
                        Take
                      </Button>
                    </td>
                  </tr>
                ))}
              </Table>
            </div>
          );
        }}
      </Asked>
    </section>
  );
}
