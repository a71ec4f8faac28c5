import type { BandRow } from "#core/search";
import { linkEnds, type Link } from "#core/plan";
import { Suspense, useEffect, useState } from "react";
import { useDesk } from "../desk/DeskContext";
import { Button, euros, figure, NumberField, StateStroke, Chart } from "../ui";
import { useView } from "../ask/useView";

/** What a bridge is asked to carry where nobody says. */
const USUAL_BRIDGE_MBPS = 100;
const LOSSES = [
  ["freeSpace", "distance"],
  ["gas", "air"],
  ["diffraction", "ground"],
  ["trees", "trees"],
  ["walls", "walls"],
  ["rain", "rain"],
] as const;

/** Losses by cause, one bar for each band: what eats the signal, at a glance. */
function LossChart({ rows }: { rows: BandRow[] }) {
  const [colours, setColours] = useState<string[] | null>(null);
  useEffect(() => {
    const style = getComputedStyle(document.documentElement);
    const names = ["--rule", "--quiet", "--tight", "--cover-wood", "--ink", "--clear"];
    setColours(names.map((name) => style.getPropertyValue(name).trim()));
  }, []);
  const shown = rows.filter(({ result }) => result !== null);
  if (!colours || shown.length === 0) return null;
  return (
    <Suspense fallback={<div className="h-52" />}>
      <Chart
        type="bar"
        height={208}
        series={LOSSES.map(([key, name]) => ({
          name,
          data: shown.map(({ result }) => Number(result!.lossDb[key].toFixed(1))),
        }))}
        options={{
          chart: {
            stacked: true,
            animations: { enabled: false },
            toolbar: { show: false },
            fontFamily: "inherit",
            foreColor: colours[1]!,
          },
          colors: colours,
          plotOptions: { bar: { horizontal: true, barHeight: "70%" } },
          dataLabels: { enabled: false },
          stroke: { width: 0 },
          xaxis: {
            categories: shown.map(({ band }) => band),
            title: { text: "loss, dB" },
            labels: { formatter: (value: string) => figure(Number(value), 0) },
          },
          legend: { position: "top", horizontalAlign: "left" },
          grid: { borderColor: colours[0]! },
          tooltip: {
            theme: document.documentElement.dataset.theme === "dark" ? "dark" : "light",
            y: { formatter: (value: number) => `${figure(value)} dB` },
          },
        }}
      />
    </Suspense>
  );
}

/** One band: its figures, and below them why it stands where it stands and with which kit. */
function Band({ row: { band, result, reason, patches }, onTake }: { row: BandRow; onTake: () => void }) {
  const figures = "figures text-right text-xs whitespace-nowrap";
  return (
    <tbody className="border-t border-rule [&_td]:pr-1">
      <tr className="[&_td]:pt-1">
        <th scope="rowgroup" rowSpan={2} className="py-1 pr-2 text-left align-top font-semibold whitespace-nowrap">
          {band}
        </th>
        {result ? (
          <>
            <td className="figures text-xs whitespace-nowrap">
              {figure(result.frequencyMHz, 0)} · {result.widthMHz} MHz
            </td>
            <td>
              <StateStroke state={result.state} />
            </td>
            <td className={figures}>{figure(result.zoneShare, 2)}</td>
            <td className={figures}>{figure(result.levelDbm, 0)} dBm</td>
            <td className={`${figures} ${result.served ? "font-semibold" : "text-quiet"}`}>
              {figure(result.marginLeftDb)} dB
            </td>
            <td className={figures}>
              {figure(result.downMbps, 0)}/{figure(result.upMbps, 0)}
            </td>
            <td className={figures}>{figure(result.availabilityPercent, 3)} %</td>
            <td className={figures}>{euros(result.costEur)}</td>
            <td className="text-right">
              {patches.length > 0 && (
                <Button className="px-1.5 py-0 text-xs" aria-label={`Take ${band} in hand`} onClick={onTake}>
                  Take
                </Button>
              )}
            </td>
          </>
        ) : (
          <td colSpan={9} />
        )}
      </tr>
      <tr>
        <td colSpan={9} className="pb-1.5 text-xs">
          {reason}
          {result && (
            <span className="text-quiet">
              {" · "}
              {result.aRadio}, {result.aAntenna}
              {result.bRadio === result.aRadio && result.bAntenna === result.aAntenna
                ? " at both ends"
                : ` – ${result.bRadio}, ${result.bAntenna}`}
              {result.licence === "no licence" ? "" : ` · ${result.licence}`}
            </span>
          )}
        </td>
      </tr>
    </tbody>
  );
}

/** Every band side by side for the ends of one link, best first, each with its reason. */
export function BandsView({ link }: { link: Link }) {
  const { data, world, draft, select } = useDesk();
  const [demandMbps, setDemandMbps] = useState(linkEnds(world, link).b.demand?.downMbps ?? USUAL_BRIDGE_MBPS);
  const view = useView<BandRow>(data.world.plan.id, draft.patches, { kind: "bands", linkId: link.id, demandMbps });
  return (
    <div className={`p-3 ${view.isStale && view.rows ? "opacity-70" : ""}`}>
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <div className="w-36">
          <NumberField
            label="Should carry"
            unit="Mbit/s"
            value={demandMbps}
            step={10}
            min={0}
            max={100_000}
            decimals={0}
            onChange={setDemandMbps}
          />
        </div>
        <p className="pb-1 text-xs text-quiet">
          Heights as they are; in each band the radio, antenna, width and channel of the library that serve best within
          the plan’s rules. Best first.
        </p>
      </div>
      {view.failed ? (
        <p role="alert" className="text-sm text-blocked">
          {view.failed}
        </p>
      ) : !view.rows ? (
        <p className="text-sm text-quiet">Trying every band…</p>
      ) : (
        <>
          <table className="w-full text-[13px]">
            <caption className="sr-only">Bands compared for this link, best first</caption>
            <thead>
              <tr className="text-right text-xs whitespace-nowrap text-quiet [&_th]:pr-1 [&_th]:font-normal">
                <th className="text-left">Band</th>
                <th className="text-left">Channel</th>
                <th className="text-left">Path</th>
                <th>Zone</th>
                <th className="w-16 leading-tight whitespace-normal">Chain’s level</th>
                <th>Margin</th>
                <th>Down/up</th>
                <th>Year</th>
                <th>Cost</th>
                <th>
                  <span className="sr-only">Action</span>
                </th>
              </tr>
            </thead>
            {view.rows.map((row) => (
              <Band
                key={row.band}
                row={row}
                onTake={() => {
                  draft.put(row.patches);
                  select({ kind: "link", id: link.id });
                }}
              />
            ))}
          </table>
          <h3 className="mt-3 text-[13px] font-semibold">What takes the signal, by band</h3>
          <LossChart rows={view.rows} />
        </>
      )}
    </div>
  );
}
