import type { SolarYear } from "#core/power";
import { MONTHS } from "#core/words";
import { Suspense } from "react";
import { figure, useColours, Chart } from "../../ui";

const COLOURS = ["clear", "blocked", "quiet", "rule"] as const;

/** What the sun gives a site's load month by month, against what is drawn. */
export function YearChart({ year }: { year: SolarYear }) {
  const colours = useColours(COLOURS);
  if (!colours) return <div className="h-56" />;
  return (
    <Suspense fallback={<div className="h-56" />}>
      <Chart
        type="line"
        height={224}
        series={[
          { name: "given by the sun", type: "column", data: year.dailyYieldWh.map(Math.round) },
          { name: "drawn", type: "line", data: MONTHS.map(() => Math.round(year.dailyLoadWh)) },
        ]}
        options={{
          chart: {
            animations: { enabled: false },
            toolbar: { show: false },
            fontFamily: "inherit",
            foreColor: colours.quiet,
            zoom: { enabled: false },
          },
          colors: [colours.clear, colours.blocked],
          stroke: { width: [0, 2], dashArray: [0, 6] },
          labels: MONTHS.map((month) => month.slice(0, 3)),
          yaxis: { min: 0, title: { text: "Wh a day" }, labels: { formatter: (value: number) => figure(value, 0) } },
          legend: { position: "top", horizontalAlign: "left" },
          grid: { borderColor: colours.rule },
          tooltip: { theme: document.documentElement.dataset.theme === "dark" ? "dark" : "light" },
        }}
      />
    </Suspense>
  );
}
