import type { Scan } from "#core/plan";
import { Suspense } from "react";
import { figure, useColours, Chart } from "../ui";

/** Told apart by dash first and by colour second. */
const DASHES = [0, 6, 2, 10, 4, 14];
const COLOURS = ["clear", "blocked", "tight", "clay", "ink", "quiet"] as const;
const USED = [...COLOURS, "rule"] as const;
/** Points drawn of one scan: the strongest of each stretch, so that no narrow signal is lost. */
const MOST_POINTS = 600;

export function scanLabel(scan: Pick<Scan, "headingDeg" | "polarization" | "scannedAt">): string {
  return `${Math.round(scan.headingDeg)}° ${scan.polarization}, ${scan.scannedAt.slice(0, 16).replace("T", " ")}`;
}

function strongest({ frequenciesMHz, levelsDbm }: Scan): { x: number; y: number }[] {
  const stretch = Math.ceil(frequenciesMHz.length / MOST_POINTS);
  const points = [];
  for (let i = 0; i < frequenciesMHz.length; i += stretch) {
    let best = i;
    for (let k = i; k < Math.min(i + stretch, frequenciesMHz.length); k++)
      if (levelsDbm[k]! > levelsDbm[best]!) best = k;
    points.push({ x: frequenciesMHz[best]!, y: levelsDbm[best]! });
  }
  return points;
}

/** Up to six scans over frequency, one above the other. */
export function ScanChart({ scans }: { scans: Scan[] }) {
  const colours = useColours(USED);
  if (!colours) return <div className="h-72" />;
  return (
    <Suspense fallback={<div className="h-72" />}>
      <Chart
        type="line"
        height={288}
        series={scans.map((scan) => ({ name: scanLabel(scan), data: strongest(scan) }))}
        options={{
          chart: {
            animations: { enabled: false },
            toolbar: { show: false },
            fontFamily: "inherit",
            foreColor: colours.quiet,
            zoom: { enabled: false },
          },
          colors: COLOURS.map((name) => colours[name]),
          stroke: { width: 1.6, curve: "straight", dashArray: DASHES },
          xaxis: { type: "numeric", title: { text: "MHz" }, decimalsInFloat: 0, tickAmount: 8 },
          yaxis: { title: { text: "dBm per bin" }, labels: { formatter: (value: number) => figure(value, 0) } },
          legend: { position: "top", horizontalAlign: "left" },
          grid: { borderColor: colours.rule },
          tooltip: {
            theme: document.documentElement.dataset.theme === "dark" ? "dark" : "light",
            x: { formatter: (value: number) => `${value} MHz` },
          },
        }}
      />
    </Suspense>
  );
}
