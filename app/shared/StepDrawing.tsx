import type { Drawing, Mark } from "#core/procedures";

/** A step's line drawing with what it shows in words. */
export function StepDrawing({
  drawing: { width, height, marks, says },
  isWide = false,
}: {
  drawing: Drawing;
  /** Takes the width that there is, as a map does. */
  isWide?: boolean;
}) {
  return (
    <figure className={`mt-1 ${isWide ? "" : "max-w-64"}`}>
      <svg viewBox={`0 0 ${width} ${height}`} aria-hidden="true" className="w-full rounded border border-rule bg-panel">
        {marks.map((mark, i) => (
          <Drawn key={i} mark={mark} />
        ))}
      </svg>
      <figcaption className="text-xs text-quiet">{says}</figcaption>
    </figure>
  );
}

const PATHS = {
  faint: { stroke: "var(--quiet)", strokeWidth: 0.4 },
  contour: { stroke: "var(--quiet)", strokeWidth: 0.9 },
  own: { stroke: "var(--ink)", strokeWidth: 1, strokeDasharray: "4 2" },
} as const;

function Drawn({ mark }: { mark: Mark }) {
  if (mark.kind === "text")
    return (
      <text
        x={mark.at[0]}
        y={mark.at[1]}
        textAnchor="middle"
        paintOrder="stroke"
        strokeWidth="3"
        className="fill-ink stroke-panel text-[10px]"
      >
        {mark.text}
      </text>
    );
  if (mark.kind === "circle")
    return (
      <circle
        cx={mark.at[0]}
        cy={mark.at[1]}
        r={mark.radius}
        fill={mark.isFilled ? "var(--clay)" : "none"}
        stroke="var(--ink)"
      />
    );
  if (mark.kind === "path")
    return (
      <polyline
        points={mark.points.map((point) => point.join(",")).join(" ")}
        fill="none"
        strokeLinejoin="round"
        {...PATHS[mark.look]}
      />
    );
  return (
    <line
      x1={mark.from[0]}
      y1={mark.from[1]}
      x2={mark.to[0]}
      y2={mark.to[1]}
      stroke="var(--ink)"
      strokeWidth={mark.weight}
    />
  );
}
