import { chainsApartDeg, edgesOf } from "#core/sectors";
import { reachWords } from "#core/coverage";
import { heardName } from "#core/link";
import { sectorAirtime } from "#core/capacity";
import { powerWithinCapDbm } from "#core/kit";
import { linksOn, type Radio, type World } from "#core/plan";
import { memo } from "react";
import { useDesk, type Desk } from "../desk/DeskContext";
import { StageEditor } from "./StageEditor";
import { figure, Table, useFormats } from "../ui";
import { useAround, type Around } from "../desk/useAround";

/** A chain this far under the other is worth a word, dB. */
const CHAINS_APART_DB = 3;
const ALL_ROUND_DEG = 180;
const MOST_HEARD_TOLD = 4;

/** What a sector is worth: its edges, its airtime, and each of its customers by the tapes of his link. */
export function SectorFigures({ radio }: { radio: Radio }) {
  const { rested, summaries, select } = useDesk();
  const seen = useAround(radio.siteId);
  const asRested = rested.radios.get(radio.id) ?? radio;
  return <Figures radio={asRested} world={rested} summaries={summaries} select={select} {...seen} />;
}

interface FiguresProps extends Pick<Desk, "summaries" | "select">, Around {
  radio: Radio;
  world: World;
}

/** Drawn anew when the hand rests rather than at each of its steps: a full sector has more rows than a screen. */
const Figures = memo(function Figures({ radio, world, summaries, select, around, customers, failed }: FiguresProps) {
  const formats = useFormats();
  const links = linksOn(world, radio.id).filter(({ kind }) => kind === "access");
  const own = [...customers.values()]
    .filter(({ linkId }) => world.links.get(linkId)?.aRadioId === radio.id)
    .sort((x, y) => x.marginLeftDb - y.marginLeftDb);
  const antenna = world.antennaModels.get(radio.antennaModelId)!;
  const edges = edgesOf(antenna, radio.polarization).filter(({ leftDeg }) => leftDeg < ALL_ROUND_DEG);
  const apart = chainsApartDeg(antenna, CHAINS_APART_DB);
  const { down, up, unreached } = sectorAirtime(world, links, summaries);
  const heard = around?.heard.find(([id]) => id === radio.id)?.[1].radios ?? [];
  const capDbm = powerWithinCapDbm(
    world,
    { radio, antenna, model: world.radioModels.get(radio.radioModelId)! },
    "ptmp",
  );
  const reach = reachWords(world, radio, own.length > 0 ? Math.max(...own.map(({ distanceM }) => distanceM)) : null);
  const most = world.radioModels.get(radio.radioModelId)!.clientLimit;
  return (
    <section className="px-3 py-2" aria-label="What the sector serves">
      <h3 className="text-[13px] font-semibold">What it serves</h3>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5 text-[13px]">
        <dt className="text-quiet">Edges, left and right</dt>
        <dd className="figures text-right">
          {edges.length === 0
            ? "alike all round"
            : edges
                .map(
                  ({ depthDb, leftDeg, rightDeg }) =>
                    `−${depthDb} dB: ${figure(-leftDeg, 0)}°, ${figure(rightDeg, 0)}°`,
                )
                .join("; ")}
        </dd>
        <dt className="text-quiet">Chains {CHAINS_APART_DB} dB apart from</dt>
        <dd className="figures text-right">
          {apart.leftDeg === null && apart.rightDeg === null
            ? "nowhere ahead"
            : `${apart.leftDeg === null ? "–" : `${figure(-apart.leftDeg, 0)}°`}, ${apart.rightDeg === null ? "–" : `${figure(apart.rightDeg, 0)}°`}`}
        </dd>
        <dt className="text-quiet">Power, of at most by the caps</dt>
        <dd className={`figures text-right ${radio.txPowerDbm > capDbm ? "text-blocked" : ""}`}>
          {figure(radio.txPowerDbm, 1)} of {figure(capDbm, 1)} dBm
        </dd>
        <dt className="text-quiet">Airtime asked for</dt>
        <dd className="figures text-right">
          {figure(down * 100, 0)} % down, {figure(up * 100, 0)} % up
          {unreached > 0 ? `; ${unreached} not reached` : ""}
        </dd>
        <dt className="text-quiet">Customers</dt>
        <dd className="figures text-right">
          {links.length} of at most {most}
        </dd>
      </dl>
      {links.length > 0 && (
        <div className="mt-1">
          <StageEditor links={links} />
        </div>
      )}
      {reach && <p className="mt-1 text-xs text-quiet">{reach}</p>}
      {heard.length > 0 && (
        <p className="mt-1 text-xs text-quiet" data-heard>
          Of transmitters that are known it hears, on a chain:{" "}
          {heard
            .slice(0, MOST_HEARD_TOLD)
            .map((one) => `${heardName(one)} ${figure(one.dbm, 0)} dBm`)
            .join("; ")}
          {heard.length > MOST_HEARD_TOLD ? `; and ${heard.length - MOST_HEARD_TOLD} weaker` : ""}.
        </p>
      )}
      {failed && (
        <p role="alert" className="mt-1 text-xs text-blocked">
          {failed}
        </p>
      )}
      {own.length > 0 && (
        <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Customers of the sector">
          <Table
            caption={`Customers of ${radio.name}, weakest first`}
            columns={[
              { name: "Customer" },
              { name: "Off, °", isNumber: true },
              { name: "Margin, dB", isNumber: true },
              { name: "Mbit/s down/up", isNumber: true },
              { name: "Time", isNumber: true },
            ]}
          >
            {own.map((one) => (
              <tr key={one.linkId}>
                <td className="max-w-24 truncate">
                  <button
                    type="button"
                    className="max-w-full truncate text-left hover:text-clay"
                    title={`${one.name}, ${formats.distance(one.distanceM)}`}
                    onClick={() => select({ kind: "link", id: one.linkId })}
                  >
                    {one.name}
                  </button>
                </td>
                <td className="figures text-right">{figure(one.azimuthOffDeg, 0)}</td>
                <td className={`figures text-right ${one.isServed ? "" : "text-blocked"}`}>
                  {figure(one.marginLeftDb, 1)}
                  {!one.isServed && <span className="sr-only"> not served</span>}
                </td>
                <td className="figures text-right">
                  {figure(one.downMbps, 0)}/{figure(one.upMbps, 0)}
                </td>
                <td className="figures text-right">
                  {one.airtime === null ? "–" : `${figure(one.airtime * 100, 0)} %`}
                </td>
              </tr>
            ))}
          </Table>
        </div>
      )}
    </section>
  );
});
