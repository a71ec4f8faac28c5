import { linkEnds, linkName, type World } from "#core/plan";
import { monthsShown } from "#core/watch";
import { Suspense, useState } from "react";
import type { Props } from "react-apexcharts";
import { useDesk } from "../../desk/DeskContext";
import { Chart, figure, SelectField, signedFigure, useColours } from "../../ui";
import { HoursCalendar } from "./HoursCalendar";
import type { LinkChart } from "./kept";
import { NothingYet } from "./NothingYet";
import { SeasonsTable } from "./SeasonsTable";
import { useChart } from "./useChart";
import { useWatch } from "./MonitoringContext";

const RANGES = [
  [7, "a week"],
  [30, "a month"],
  [90, "three months"],
  [370, "a year"],
] as const;
const USED = ["clear", "blocked", "tight", "clay", "ink", "quiet", "rule"] as const;
type Colours = Record<(typeof USED)[number], string>;

/** A link's months: what came against what was promised, the weather, and what was done. */
export function TimelineView() {
  const { kept, selection } = useDesk();
  const { kept: watch, failed } = useWatch();
  const [days, setDays] = useState(90);
  const [otherId, setOtherId] = useState("");
  const planId = kept.plan.id;
  const chosen = selection?.kind === "link" && kept.links.has(selection.id) ? selection.id : null;
  const stamp = watch?.look?.at ?? "";
  const found = useChart(planId, watch?.look ? chosen : null, days, stamp);
  const other = useChart(planId, watch?.look && otherId !== "" ? otherId : null, days, stamp);
  const colours = useColours(USED);
  if (!watch?.look) return <NothingYet failed={failed} />;
  if (chosen === null)
    return (
      <p className="p-8 text-center text-sm text-quiet">Choose a link in the list, or on the plan under Network.</p>
    );
  const { a, b } = linkEnds(kept, kept.links.get(chosen)!);
  return (
    <div className="h-full overflow-y-auto p-3" tabIndex={0} role="region" aria-label="Timeline">
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <h2 className="mr-auto font-semibold">
          {a.placeName} – {b.placeName}
        </h2>
        <SelectField label="Shown" value={days} onChange={({ target }) => setDays(Number(target.value))}>
          {RANGES.map(([count, word]) => (
            <option key={count} value={count}>
              {word}
            </option>
          ))}
        </SelectField>
        <div className="w-56">
          <SelectField label="Beside it" value={otherId} onChange={({ target }) => setOtherId(target.value)}>
            <option value="">no other link</option>
            {[...kept.links.keys()]
              .filter((id) => id !== chosen)
              .map((id) => (
                <option key={id} value={id}>
                  {linkName(kept, id)}
                </option>
              ))}
          </SelectField>
        </div>
      </div>
      {!found && <p className="p-8 text-center text-sm text-quiet">Reading…</p>}
      {found?.problem && (
        <p role="alert" className="p-4 text-sm">
          {found.problem}
        </p>
      )}
      {found?.chart && colours && (
        <Charts
          chart={found.chart}
          names={[a.placeName, b.placeName]}
          colours={colours}
          marks={marksOf(kept, chosen, found.chart)}
          other={other?.chart ? { chart: other.chart, name: linkName(kept, otherId) } : null}
        />
      )}
      {found?.chart && (
        <div className="mt-3">
          <SeasonsTable months={monthsShown(found.chart)} latDeg={a.place.latDeg} />
        </div>
      )}
    </div>
  );
}

/** A line of a chart; it is told apart by its dash as well as by its colour. */
type Line = [name: string, data: { x: number; y: number | null }[], colour: string, dash: number];

interface Mark {
  x: number;
  text: string;
  kind: "alarm" | "job" | "change";
}

/** What happened on the days that are shown. */
function marksOf(world: World, linkId: string, { fromMs, changes }: LinkChart): Mark[] {
  const at = (day: string) => Date.parse(`${day.slice(0, 10)}T12:00:00Z`);
  const marks: Mark[] = [
    ...[...world.alarms.values()].flatMap((alarm): Mark[] =>
      alarm.linkIds.includes(linkId) ? [{ x: at(alarm.sinceDay), text: `▽ ${alarm.what}`, kind: "alarm" }] : [],
    ),
    ...[...world.visits.values()].flatMap((visit): Mark[] =>
      visit.linkId === linkId && visit.day !== ""
        ? [{ x: at(visit.day), text: `job: ${visit.work}`, kind: "job" }]
        : [],
    ),
    ...[...world.measurements.values()].flatMap((reading): Mark[] =>
      reading.linkId === linkId ? [{ x: at(reading.measuredAt), text: "reading", kind: "job" }] : [],
    ),
    ...changes.map((day): Mark => ({ x: at(day), text: "plan changed", kind: "change" })),
  ];
  return marks.filter(({ x }) => x >= fromMs).sort((x, y) => x.x - y.x);
}

function Charts({
  chart,
  names,
  colours,
  marks,
  other,
}: {
  chart: LinkChart;
  names: [a: string, b: string];
  colours: Colours;
  marks: Mark[];
  other: { chart: LinkChart; name: string } | null;
}) {
  const { fromMs, stepMs, bandDb } = chart;
  const points = (values: readonly (number | null)[]) => values.map((y, i) => ({ x: fromMs + i * stepMs, y }));
  const less = (values: readonly (number | null)[], promised: readonly number[]) =>
    points(values.map((value, i) => (value === null ? null : Math.round((value - promised[i]!) * 10) / 10)));
  const isSolar = [chart.supplyA, chart.supplyB].some((values) => values.some((value) => value !== null && value < 40));
  const lines: Line[] = [
    [`at ${names[0]}`, less(chart.levelA, chart.promisedA), colours.clear, 0],
    [`at ${names[1]}`, less(chart.levelB, chart.promisedB), colours.tight, 5],
  ];
  if (chart.chains === 2)
    lines.push([`second chain at ${names[0]}`, less(chart.secondA, chart.promisedA), colours.quiet, 2]);
  if (other) lines.push([`${other.name}, first end`, less(other.chart.levelA, other.chart.promisedA), colours.clay, 8]);
  return (
    <div className="space-y-3">
      <Panel
        title={`Level on one chain against the promise, dB (promised now: ${figure(chart.promisedA.at(-1)!)} dBm at ${names[0]}, ${figure(chart.promisedB.at(-1)!)} dBm at ${names[1]}; shaded: ±${bandDb} dB)`}
        height={230}
        lines={lines}
        colours={colours}
        unit="dB"
        format={(value) => signedFigure(value, decimalsOf(value))}
        band={[-bandDb, bandDb]}
        marks={marks}
      />
      <Panel
        title="Noise, dBm, and what was planned"
        height={150}
        colours={colours}
        unit="dBm"
        format={(value) => figure(value, decimalsOf(value))}
        lines={[
          [`at ${names[0]}`, points(chart.noiseA), colours.clear, 0],
          [`at ${names[1]}`, points(chart.noiseB), colours.tight, 5],
        ]}
        levels={[chart.noisePromised.a, chart.noisePromised.b]}
      />
      <Panel
        title={`Rate in the air, Mbit/s (promised: ${figure(chart.ratePromised.a, 0)} toward ${names[0]}, ${figure(chart.ratePromised.b, 0)} toward ${names[1]})`}
        height={150}
        colours={colours}
        unit="Mbit/s"
        format={(value) => figure(value, decimalsOf(value))}
        lines={[
          [`toward ${names[0]}`, points(chart.rateA), colours.clear, 0],
          [`toward ${names[1]}`, points(chart.rateB), colours.tight, 5],
        ]}
      />
      <Panel
        title="Wind, m/s, and rain, mm/h: the most of each hour or day"
        height={130}
        colours={colours}
        unit=""
        format={(value) => figure(value, decimalsOf(value))}
        lines={[
          ["wind", points(chart.wind), colours.ink, 0],
          ["rain", points(chart.rain), colours.clay, 3],
        ]}
      />
      {isSolar && (
        <Panel
          title="Supply, V: the least of each hour or day"
          height={140}
          colours={colours}
          unit="V"
          format={(value) => figure(value)}
          lines={[
            [names[0], points(chart.supplyA), colours.clear, 0],
            [names[1], points(chart.supplyB), colours.tight, 5],
          ]}
        />
      )}
      <HoursCalendar hours={chart.hours} />
      {marks.length > 0 && (
        <div>
          <h3 className="text-xs font-semibold">What happened</h3>
          <ul className="text-xs">
            {marks.map(({ x, text, kind }, i) => (
              <li key={`${x} ${kind} ${i}`}>
                <span className="figures">{new Date(x).toISOString().slice(0, 10)}</span> {text}
              </li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}

/** A tick is told as it lies: never rounded to where it does not. */
const decimalsOf = (value: number) => (Math.abs(value - Math.round(value)) < 0.05 ? 0 : 1);

/** One figure over time. */
function Panel({
  title,
  height,
  lines,
  colours,
  unit,
  format,
  band,
  levels = [],
  marks = [],
}: {
  title: string;
  height: number;
  lines: Line[];
  colours: Colours;
  unit: string;
  format: (value: number) => string;
  band?: [low: number, high: number];
  levels?: number[];
  marks?: Mark[];
}) {
  // Even on both sides of the promise, so that ticks fall on whole figures.
  const farthest = lines.reduce(
    (most, [, data]) => data.reduce((far, { y }) => Math.max(far, Math.abs(y ?? 0)), most),
    band ? band[1] + 1 : 0,
  );
  const reach = band && 2 * Math.ceil(farthest / 2);
  const options: NonNullable<Props["options"]> = {
    chart: {
      animations: { enabled: false },
      toolbar: { show: false },
      zoom: { enabled: false },
      fontFamily: "inherit",
      foreColor: colours.quiet,
    },
    colors: lines.map(([, , colour]) => colour),
    stroke: { width: 1.4, curve: "straight", dashArray: lines.map(([, , , dash]) => dash) },
    xaxis: { type: "datetime", tooltip: { enabled: false } },
    yaxis: {
      ...(reach && { min: -reach, max: reach }),
      labels: { formatter: (value: number) => (value === null ? "" : format(value)), minWidth: 40 },
      tickAmount: 4,
    },
    legend: { position: "top", horizontalAlign: "left", fontSize: "11px" },
    grid: { borderColor: colours.rule },
    tooltip: {
      theme: document.documentElement.dataset.theme === "dark" ? "dark" : "light",
      x: { format: "yyyy-MM-dd HH:mm" },
      y: { formatter: (value: number | null) => (value === null ? "nothing known" : `${format(value)} ${unit}`) },
    },
    annotations: {
      yaxis: [
        ...(band
          ? [{ y: band[0], y2: band[1], fillColor: colours.rule, opacity: 0.35, borderColor: "transparent" }]
          : []),
        ...levels.map((y) => ({ y, borderColor: colours.quiet, strokeDashArray: 4 })),
      ],
      xaxis: marks.map(({ x, kind }) => ({
        x,
        borderColor: kind === "alarm" ? colours.blocked : kind === "job" ? colours.clay : colours.quiet,
        strokeDashArray: kind === "change" ? 4 : 0,
        label: {
          text: kind === "alarm" ? "▽" : kind === "job" ? "job" : "plan",
          orientation: "horizontal",
          style: { background: "transparent", color: colours.ink, fontSize: "10px" },
        },
      })),
    },
  };
  return (
    <figure>
      <figcaption className="text-xs font-semibold">{title}</figcaption>
      <Suspense fallback={<div style={{ height }} />}>
        <Chart type="line" height={height} series={lines.map(([name, data]) => ({ name, data }))} options={options} />
      </Suspense>
    </figure>
  );
}
