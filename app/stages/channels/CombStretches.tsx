import { FLAG_WORDS, LICENCE_WORDS } from "#core/regulation";
import type { CombRow } from "./groups";

/** Hatches of stretches that ask for more; one definition for all rows. */
export function StretchPatterns() {
  return (
    <defs>
      <pattern id="comb-dfs" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="6" stroke="var(--clear)" strokeWidth="1.6" strokeOpacity="0.45" />
      </pattern>
      <pattern id="comb-licence" width="5" height="5" patternUnits="userSpaceOnUse">
        <circle cx="2" cy="2" r="0.9" fill="var(--clear)" fillOpacity="0.6" />
      </pattern>
    </defs>
  );
}

/** What rules and kit leave open to a row: striped where radar has to be avoided, dotted where a licence is needed. */
export function CombStretches({
  row,
  xOf,
  top,
  height,
}: {
  row: CombRow;
  xOf: (mhz: number) => number;
  top: number;
  height: number;
}) {
  return row.open.map(({ lowMHz, highMHz, flags, licence }) => {
    const box = { x: xOf(lowMHz), y: top, width: xOf(highMHz) - xOf(lowMHz), height };
    const asks = [...flags.map((flag) => FLAG_WORDS[flag]), ...(licence === "exempt" ? [] : [LICENCE_WORDS[licence]])];
    return (
      <g key={lowMHz}>
        <title>{`${lowMHz} to ${highMHz} MHz${asks.length > 0 ? `: ${asks.join(", ")}` : ""}`}</title>
        <rect {...box} fill="var(--clear)" fillOpacity="0.1" stroke="var(--clear)" strokeOpacity="0.35" />
        {flags.includes("DFS") && <rect {...box} fill="url(#comb-dfs)" />}
        {licence !== "exempt" && <rect {...box} fill="url(#comb-licence)" />}
      </g>
    );
  });
}
