import type { LinkEnd } from "#core/plan";
import type { KeyboardEvent, PointerEvent } from "react";
import { useFormats } from "../ui";

const STEP_M = 0.5;
/** A radio may be tried a little above its structure, to see what a taller one would buy. */
export const TRY_ABOVE_M = 30;

/** One end's mast in the section: its head moves by mouse, touch or arrow keys, in half metres. */
export function MastHandle({
  end,
  x,
  groundY,
  groundAmslM,
  amslToY,
  yToAmsl,
  onHeight,
  labelSide,
}: {
  end: LinkEnd;
  x: number;
  groundY: number;
  groundAmslM: number;
  amslToY: (amslM: number) => number;
  yToAmsl: (y: number) => number;
  onHeight: (heightM: number) => void;
  labelSide: "left" | "right";
}) {
  const formats = useFormats();
  const heightM = end.radio.heightM;
  const mostM = end.maxHeightM + TRY_ABOVE_M;
  const headY = amslToY(groundAmslM + heightM);
  const set = (wanted: number) => {
    const next = Math.min(mostM, Math.max(0, Math.round(wanted / STEP_M) * STEP_M));
    if (next !== heightM) onHeight(next);
  };
  const onMove = (event: PointerEvent<SVGGElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
    set(yToAmsl(event.clientY - box.top) - groundAmslM);
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    set(heightM + by * STEP_M * (event.shiftKey ? 10 : 1));
  };
  const beyond = heightM > end.maxHeightM;
  const text = `${end.placeName} ${formats.height(heightM)}${beyond ? " (above the structure)" : ""}`;
  return (
    <g
      tabIndex={0}
      role="slider"
      aria-label={`Height at ${end.placeName}`}
      aria-valuenow={heightM}
      aria-valuemin={0}
      aria-valuemax={mostM}
      aria-valuetext={text}
      aria-orientation="vertical"
      data-end={end.radio.id}
      onKeyDown={onKey}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={onMove}
      className="cursor-ns-resize outline-none [&:focus-visible>circle]:stroke-[4px]"
    >
      <line
        x1={x}
        x2={x}
        y1={amslToY(groundAmslM + end.maxHeightM)}
        y2={groundY}
        stroke="var(--quiet)"
        strokeWidth="5"
        strokeOpacity="0.3"
      />
      <line x1={x} x2={x} y1={headY} y2={groundY} stroke="var(--ink)" strokeWidth="2" />
      <circle cx={x} cy={headY} r="14" fill="transparent" />
      <circle
        cx={x}
        cy={headY}
        r="6"
        fill={beyond ? "var(--panel)" : "var(--clay)"}
        stroke="var(--clay)"
        strokeWidth="2"
      />
      <text
        x={x + (labelSide === "right" ? 11 : -11)}
        y={Math.max(12, headY - 16)}
        textAnchor={labelSide === "right" ? "start" : "end"}
        className="fill-ink text-xs"
        paintOrder="stroke"
        stroke="var(--panel)"
        strokeWidth="3"
      >
        {text}
      </text>
    </g>
  );
}
