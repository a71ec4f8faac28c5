import { FREEDOMS, type Freedom, type TradePoint } from "#core/optimize";
import type { OptimizeResult } from "#jobs";
import { Suspense, useEffect, useState } from "react";
import { toast } from "sonner";
import { useDesk } from "../../desk/DeskContext";
import { Button, euros, figure, NumberField, Table, Chart } from "../../ui";
import { SearchState } from "../../ask/SearchState";
import { useSearch } from "../../ask/useSearch";

const FREEDOM_WORDS: Record<Freedom, string> = {
  heading: "headings",
  tilt: "tilts",
  antenna: "antennas",
  power: "power",
  height: "heights",
  customers: "who is linked",
};
const NUMBER = "figures text-right whitespace-nowrap";

/** The trade as points: people served over the ground lit for nobody; the present state stands among them. */
function TradeChart({ before, points }: OptimizeResult) {
  const [colours, setColours] = useState<string[] | null>(null);
  useEffect(() => {
    const style = getComputedStyle(document.documentElement);
    setColours(["--clear", "--clay", "--quiet", "--rule"].map((name) => style.getPropertyValue(name).trim()));
  }, []);
  if (!colours) return <div className="h-52" />;
  const at = ({ strayKm2, peopleServed }: TradePoint) =>
    [Number(strayKm2.toFixed(1)), peopleServed] as [number, number];
  return (
    <Suspense fallback={<div className="h-52" />}>
      <Chart
        type="scatter"
        height={208}
        series={[
          { name: "choices", data: points.map(at) },
          { name: "as it stands", data: [at(before)] },
        ]}
        options={{
          chart: {
            animations: { enabled: false },
            toolbar: { show: false },
            zoom: { enabled: false },
            fontFamily: "inherit",
            foreColor: colours[2]!,
          },
          colors: [colours[0]!, colours[1]!],
          markers: { size: [5, 7], shape: ["circle", "square"] },
          xaxis: {
            min: 0,
            title: { text: "lit for nobody, km² of open ground" },
            tickAmount: 6,
            labels: { formatter: (value: string) => figure(Number(value), 0) },
          },
          yaxis: { title: { text: "people served" }, labels: { formatter: (value: number) => figure(value, 0) } },
          legend: { position: "top", horizontalAlign: "left" },
          grid: { borderColor: colours[3]! },
          tooltip: { theme: document.documentElement.dataset.theme === "dark" ? "dark" : "light" },
        }}
      />
    </Suspense>
  );
}

function Point({ point, before, onTake }: { point: TradePoint; before: TradePoint; onTake: () => void }) {
  const change = point.costEur - before.costEur;
  return (
    <tr data-people={point.peopleServed}>
      <td className={NUMBER}>{point.customersServed}</td>
      <td className={NUMBER}>{point.peopleServed}</td>
      <td className={NUMBER}>{point.meanMbps === null ? "–" : figure(point.meanMbps, 0)}</td>
      <td className={NUMBER}>{figure(point.strayKm2, 0)} km²</td>
      <td className={NUMBER}>
        {Math.round(change) === 0 ? "same" : `${change > 0 ? "+" : "−"}${euros(Math.abs(change))}`}
      </td>
      <td>
        <details className="text-xs">
          <summary className="cursor-pointer text-quiet">
            {point.steps.length} {point.steps.length === 1 ? "step" : "steps"}
          </summary>
          <ol className="ml-4 list-decimal">
            {point.steps.map((step, i) => (
              <li key={i}>{step}</li>
            ))}
          </ol>
        </details>
      </td>
      <td>
        <Button className="px-1.5 py-0 text-xs" disabled={point.patches.length === 0} onClick={onTake}>
          Take in hand
        </Button>
      </td>
    </tr>
  );
}

/** Sectors bettered by themselves: what may be changed and where, and the trade that comes of it. */
export function BetterView({
  sites,
  siteId,
}: {
  sites: readonly { id: string; name: string; sectors: number; customers: number }[];
  /** The chosen site. */
  siteId: string;
}) {
  const { data, draft } = useDesk();
  const able = sites.filter(({ sectors }) => sectors > 0);
  const [chosen, setChosen] = useState<ReadonlySet<string> | null>(null);
  const siteIds = [
    ...(chosen ?? new Set(able.some(({ id }) => id === siteId) ? [siteId] : able.slice(0, 1).map(({ id }) => id))),
  ];
  const [may, setMay] = useState<ReadonlySet<Freedom>>(new Set(["heading", "tilt", "power", "customers"]));
  const [reachKm, setReachKm] = useState(8);
  const { job, result, failed, start, stop } = useSearch<OptimizeResult>(data.world.plan.id, true);
  const toggled = <T,>(set: ReadonlySet<T>, one: T) =>
    new Set(set.has(one) ? [...set].filter((other) => other !== one) : [...set, one]);
  if (able.length === 0)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        No site has a sector yet: add one, or see under Ways to serve which ones its customers need.
      </p>
    );
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <p className="text-xs text-quiet">
        One change after another, each tried on the whole plan: kept where more people are served at their demand, then
        where rates are better, then where less ground is lit for nobody.
      </p>
      <div className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        <fieldset className="max-h-40 overflow-y-auto">
          <legend className="text-xs text-quiet">Sectors of</legend>
          {able.map(({ id, name, sectors }) => (
            <label key={id} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={siteIds.includes(id)}
                onChange={() => setChosen(toggled(new Set(siteIds), id))}
              />
              {name} <span className="text-xs text-quiet">({sectors})</span>
            </label>
          ))}
        </fieldset>
        <fieldset>
          <legend className="text-xs text-quiet">May be changed</legend>
          {FREEDOMS.map((one) => (
            <label key={one} className="flex items-center gap-1.5">
              <input type="checkbox" checked={may.has(one)} onChange={() => setMay(toggled(may, one))} />
              {FREEDOM_WORDS[one]}
            </label>
          ))}
        </fieldset>
        <div className="flex flex-col gap-2">
          <div className="w-36">
            <NumberField
              label="Link customers within"
              unit="km"
              value={reachKm}
              step={1}
              min={1}
              max={40}
              decimals={0}
              onChange={setReachKm}
            />
          </div>
          <Button
            look="primary"
            disabled={job?.state === "running" || siteIds.length === 0 || may.size === 0}
            onClick={() => void start({ kind: "sectors", siteIds, may: [...may], reachKm }, draft.patches)}
          >
            {result ? "Start again" : "Improve them"}
          </Button>
        </div>
      </div>
      <SearchState job={job} failed={failed} onStop={stop} />
      {job?.state === "running" && (
        <p className="mt-1 text-xs text-quiet">Stop when you like: the best so far is kept.</p>
      )}
      {result && (
        <>
          <p role="status" className="mt-3" data-trade={result.points.length}>
            {job?.message}. As it stands {result.before.peopleServed} people are served,{" "}
            {figure(result.before.strayKm2, 0)} km² of open ground are lit for nobody.
          </p>
          <TradeChart {...result} />
          <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="The trade, point by point">
            <Table
              caption="Choices, those that serve most people first"
              columns={[
                { name: "Served", isNumber: true },
                { name: "People", isNumber: true },
                { name: "Mbit/s, geometric mean", isNumber: true },
                { name: "Lit for nobody", isNumber: true },
                { name: "Cost", isNumber: true },
                { name: "How" },
                { name: "Take", isHidden: true },
              ]}
            >
              {result.points.map((point, i) => (
                <Point
                  key={i}
                  point={point}
                  before={result.before}
                  onTake={() => {
                    draft.put(point.patches);
                    toast(
                      `${point.steps.length} steps are in hand: look at the rose and the coverage, then keep or discard them.`,
                    );
                  }}
                />
              ))}
            </Table>
          </div>
        </>
      )}
    </div>
  );
}
