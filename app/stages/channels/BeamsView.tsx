import type { BeamCustomer, BeamRow } from "#core/sectors";
import { Asked } from "../../ask/Asked";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { Button, euros, figure, Table, Term } from "../../ui";
import { NoSector, SectorChoice, useChosenSector } from "./SectorChoice";

const NUMBER = "figures text-right whitespace-nowrap";
const signed = (value: number, digits: number) => `${value < 0 ? "−" : "+"}${figure(Math.abs(value), digits)}`;

/** What an adaptive antenna on one sector would be worth toward each of its customers. */
export function BeamsView() {
  const { world, data, draft } = useDesk();
  const { sectors, sector } = useChosenSector();
  const view = useView<BeamRow>(
    data.world.plan.id,
    draft.patches,
    sector ? { kind: "beams", radioId: sector.id } : null,
  );
  if (!sector) return <NoSector />;
  const antenna = world.antennaModels.get(sector.antennaModelId);
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <div className="flex flex-wrap items-end gap-3">
        <SectorChoice sectors={sectors} sector={sector} />
        <p className="flex-1 pb-1 text-xs text-quiet">
          An adaptive antenna sends over the whole sector, but listens through a narrow beam that turns to whoever is
          sending: it hears each customer better, and noise from elsewhere less. That helps toward the sector only; what
          customers hear changes as with any other antenna.
        </p>
      </div>
      <Asked
        view={view}
        waiting="Listening through a beam to every customer…"
        none={
          antenna?.receiveBeam
            ? `${antenna.model} listens through a beam already, and the library has no other such antenna.`
            : "The library has no adaptive antenna for this channel, or no radio that could turn its beam."
        }
      >
        {(rows) => (
          <ul className="space-y-4">
            {rows.map((row) => (
              <li key={row.antennaModelId} data-beam={row.antennaModelId} className="mt-3">
                <Worth row={row} onTake={() => draft.put(row.patches)} />
                <Customers customers={row.customers} antenna={row.antenna} />
              </li>
            ))}
          </ul>
        )}
      </Asked>
    </div>
  );
}

function Worth({ row, onTake }: { row: BeamRow; onTake: () => void }) {
  return (
    <div className="flex flex-wrap items-center gap-3 rounded border border-rule bg-panel p-2">
      <div className="flex-1">
        <p className="font-semibold">
          {row.antenna}, a beam {figure(row.widthDeg, 0)}° wide{row.radioModel && `, with ${row.radioModel}`}
        </p>
        <p>
          {row.servedThen} of {row.customers.length} served instead of {row.servedNow}; time toward the sector asked for{" "}
          {figure(row.loadThen * 100, 0)} % instead of {figure(row.loadNow * 100, 0)} %.{" "}
          {row.costEur < 0 ? `${euros(-row.costEur)} less` : `${euros(row.costEur)} more`},{" "}
          {figure(Math.abs(row.heavierKg))} kg {row.heavierKg < 0 ? "lighter" : "heavier"} on the mast.
        </p>
      </div>
      <Button onClick={onTake} aria-label={`Take ${row.antenna} in hand`}>
        Take in hand
      </Button>
    </div>
  );
}

function Customers({ customers, antenna }: { customers: readonly BeamCustomer[]; antenna: string }) {
  return (
    <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label={`Customers through ${antenna}`}>
      <Table
        caption={`What ${antenna} is worth for each customer`}
        columns={[
          { name: "Customer" },
          { name: "People", isNumber: true },
          { name: "SNR at the sector", isNumber: true },
          { name: "Gains", isNumber: true },
          { name: "Noise above thermal", isNumber: true },
          { name: "Mbit/s toward the sector", isNumber: true },
        ]}
      >
        {customers.map(({ linkId, name, people, isBeyond, now, then }) => (
          <tr key={linkId} data-customer={linkId}>
            <td>
              {name}
              {isBeyond && <span className="block text-xs text-quiet">beside where the beam can look</span>}
            </td>
            <td className={NUMBER}>{people}</td>
            <td className={NUMBER}>
              {figure(now.snrDb)} → {figure(then.snrDb)} dB
            </td>
            <td className={`${NUMBER} font-semibold ${then.snrDb < now.snrDb ? "text-blocked" : ""}`}>
              {signed(then.snrDb - now.snrDb, 1)} dB
            </td>
            <td className={NUMBER}>
              <Term meaning="What others put into the sector’s channel while it listens to this customer, over the receiver’s own noise.">
                {figure(now.riseDb)} → {figure(then.riseDb)} dB
              </Term>
            </td>
            <td className={NUMBER}>
              {figure(now.rateMbps, 0)} → {figure(then.rateMbps, 0)}
            </td>
          </tr>
        ))}
      </Table>
    </div>
  );
}
