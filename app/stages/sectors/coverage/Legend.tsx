import { legendOf, UNITS, type Layer, type Step } from "./paint";
import type { Painted } from "./useCells";

function Swatch({ step: { colour, hatch } }: { step: Step }) {
  const [red, green, blue, alpha] = colour;
  const fill = `rgba(${red},${green},${blue},${(alpha / 255).toFixed(2)})`;
  return (
    <svg width="16" height="11" viewBox="0 0 16 11" aria-hidden="true" className="shrink-0 border border-rule">
      {hatch === undefined && <rect width="16" height="11" fill={fill} />}
      {hatch === "dots" &&
        [2, 6, 10, 14].flatMap((x) =>
          [2, 5.5, 9].map((y) => <circle key={`${x} ${y}`} cx={x} cy={y} r="1.1" fill={fill} />),
        )}
      {hatch === "strokes" && <path d="M-2 11L9 0M3 11L14 0M8 11L19 0" stroke={fill} strokeWidth="1.6" />}
      {hatch === "bars" && <path d="M0 2H16M0 5.5H16M0 9H16" stroke={fill} strokeWidth="1.4" />}
      {hatch === "cross" && <path d="M0 11L11 0M6 11L17 0M0 0L11 11M6 0L17 11" stroke={fill} strokeWidth="1.4" />}
    </svg>
  );
}

/** What the colours and hatches of a layer mean. */
export function Legend({ layer, painted }: { layer: Layer; painted: Painted }) {
  return (
    <ul
      aria-label="Legend"
      className="absolute bottom-8 left-2 space-y-0.5 rounded border border-rule bg-panel/90 px-2 py-1 text-[11px]"
    >
      {UNITS[layer] && <li className="text-quiet">{UNITS[layer]}, at least</li>}
      {legendOf(layer, painted).map((step) => (
        <li key={step.word} className="figures flex items-center gap-1.5">
          <Swatch step={step} />
          {step.word}
        </li>
      ))}
    </ul>
  );
}
