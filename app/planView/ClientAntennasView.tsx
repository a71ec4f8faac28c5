import { HEARS_DEPTH_DB } from "#core/antenna";
import { leastClientAntenna, type ClientAntennaRow } from "#core/search";
import { heardName } from "#core/link";
import type { Link } from "#core/plan";
import { useDesk } from "../desk/DeskContext";
import { Button, euros, figure, Table, Term } from "../ui";
import { Asked } from "../ask/Asked";
import { useView } from "../ask/useView";

/** Lobes beside the main one that widen what is heard by so much are worth a word. */
const WIDER = 1.5;
const NUMBER = "figures text-right whitespace-nowrap";

/** What the customer's antenna hears of everybody else, one antenna of the library after another, and the least that does. */
export function ClientAntennasView({ link }: { link: Link }) {
  const { data, draft, select } = useDesk();
  const view = useView<ClientAntennaRow>(data.world.plan.id, draft.patches, {
    kind: "clientAntennas",
    linkId: link.id,
  });
  return (
    <div className="p-3">
      <p className="text-xs text-quiet">
        Every antenna of the library for this channel, aimed at the sector, each with what it hears of the plan’s other
        transmitters by its own pattern. Cheapest first.
      </p>
      <Asked view={view} waiting="Trying every antenna…" none="The library has no customer’s antenna for this channel.">
        {(rows) => {
          const least = leastClientAntenna(rows);
          return (
            <>
              <p
                className="mt-2 rounded border border-rule bg-panel p-2 text-[13px]"
                data-least={least?.antennaModelId}
              >
                {least
                  ? `${least.antenna} is the least that does the job: ${figure(least.marginLeftDb!)} dB of margin left${least.isOwn ? "; it is the one that is planned" : `, ${least.costEur <= 0 ? `${euros(-least.costEur)} less` : `${euros(least.costEur)} more`} than the one that is planned`}.`
                  : "None of them serves this customer as he stands: see Ways out."}
              </p>
              <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Antennas compared">
                <Table
                  caption="Antennas for this customer"
                  columns={[
                    { name: "Antenna" },
                    { name: "Gain", isNumber: true },
                    { name: "Level at him", isNumber: true },
                    { name: "SNR", isNumber: true },
                    { name: "Margin left", isNumber: true },
                    { name: "Mbit/s down/up", isNumber: true },
                    { name: "Hears most" },
                    { name: "Hears as wide as", isNumber: true },
                    { name: "Price", isNumber: true },
                    { name: "Take", isHidden: true },
                  ]}
                >
                  {rows.map((row) => (
                    <tr key={row.antennaModelId} className={row === least ? "bg-panel font-semibold" : ""}>
                      <td className="whitespace-nowrap">
                        {row.antenna}
                        <span className="block text-xs font-normal text-quiet">
                          {row.isServed ? "serves" : "does not serve"}
                          {row.isOwn ? " · planned" : ` at ${figure(row.txPowerDbm, 0)} dBm`}
                        </span>
                      </td>
                      <td className={NUMBER}>{figure(row.gainDbi)} dBi</td>
                      <td className={NUMBER}>{row.levelDbm === null ? "–" : `${figure(row.levelDbm, 0)} dBm`}</td>
                      <td className={NUMBER}>{row.snrDb === null ? "–" : `${figure(row.snrDb, 0)} dB`}</td>
                      <td className={NUMBER}>{row.marginLeftDb === null ? "–" : `${figure(row.marginLeftDb)} dB`}</td>
                      <td className={NUMBER}>
                        {figure(row.downMbps, 0)}/{figure(row.upMbps, 0)}
                      </td>
                      <td className="text-xs font-normal">
                        {row.heard.length === 0
                          ? "nobody else"
                          : row.heard.map((one) => `${heardName(one)} ${figure(one.dbm, 0)} dBm`).join("; ")}
                      </td>
                      <td className={NUMBER}>
                        <Term
                          meaning={`All round its heading, the antenna hears within ${HEARS_DEPTH_DB} dB of its peak as far as the outermost lobe that strong. Its main lobe alone is ${figure(row.mainDeg, 0)}° wide there.`}
                        >
                          {figure(row.hearsDeg, 0)}°
                        </Term>
                        {row.hearsDeg > row.mainDeg * WIDER && (
                          <span className="block text-xs font-normal text-tight">
                            {figure(row.hearsDeg / row.mainDeg)} × its main lobe
                          </span>
                        )}
                      </td>
                      <td className={NUMBER}>
                        {row.costEur === 0 ? "same" : `${row.costEur > 0 ? "+" : "−"}${euros(Math.abs(row.costEur))}`}
                      </td>
                      <td>
                        {!row.isOwn && (
                          <Button
                            className="px-1.5 py-0 text-xs"
                            aria-label={`Take ${row.antenna} in hand`}
                            onClick={() => {
                              draft.put(row.patches);
                              select({ kind: "link", id: link.id });
                            }}
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
