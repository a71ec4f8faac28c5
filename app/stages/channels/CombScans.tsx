import { scanLooksToward } from "#core/spectrum";
import type { Scan } from "#core/plan";
import type { CombRow } from "./groups";

/** Scanned levels are drawn between these, dBm in a bin. */
const FLOOR_DBM = -110;
const CEILING_DBM = -50;
const STEP_PX = 3;

/** Scans that speak for a row: those that look its way. */
export const scansFor = (scans: readonly Scan[], { looksDeg }: CombRow): Scan[] =>
  looksDeg === null ? [...scans] : scans.filter((scan) => scanLooksToward(scan, looksDeg));

/** Scans of one polarization folded into one strongest level for every few pixels of the band. */
function barsOf(scans: readonly Scan[], xOf: (mhz: number) => number, [left, right]: [number, number]) {
  const strongest = new Map<number, number>();
  for (const { frequenciesMHz, levelsDbm } of scans)
    frequenciesMHz.forEach((mhz, i) => {
      const x = Math.round(xOf(mhz) / STEP_PX) * STEP_PX;
      if (x < left || x > right) return;
      strongest.set(x, Math.max(strongest.get(x) ?? -Infinity, levelsDbm[i]!));
    });
  return [...strongest].map(([x, dbm]) => ({
    x,
    share: Math.min(1, Math.max(0, (dbm - FLOOR_DBM) / (CEILING_DBM - FLOOR_DBM))),
  }));
}

/** What was heard behind a row: vertical polarization rises from below, horizontal hangs from above. */
export function CombScans({
  scans,
  xOf,
  between,
  top,
  height,
}: {
  scans: readonly Scan[];
  xOf: (mhz: number) => number;
  between: [left: number, right: number];
  top: number;
  height: number;
}) {
  const half = height / 2;
  return (["V", "H"] as const).map((polarization) =>
    barsOf(
      scans.filter((scan) => scan.polarization === polarization),
      xOf,
      between,
    ).map(({ x, share }) => (
      <rect
        key={`${polarization} ${x}`}
        x={x - 1}
        y={polarization === "V" ? top + height - share * half : top}
        width={2.4}
        height={share * half}
        fill={polarization === "V" ? "var(--quiet)" : "var(--earth)"}
        fillOpacity="0.5"
      />
    )),
  );
}
