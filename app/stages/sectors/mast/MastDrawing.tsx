import { keepAwayM, type OnMast } from "#core/mast";
import type { KeyboardEvent, PointerEvent } from "react";
import { figure, useFormats } from "../../../ui";

const STEP_M = 0.5;
const WIDTH = 480;
const HEIGHT = 320;
const TOP = 26;
const BOTTOM = 24;
const MAST_X = 150;
/** Antennas hang as far beside the drawing's mast as they look to that side, px. */
const ARM = 34;
const LABEL_X = MAST_X + ARM + 26;
const LABEL_STEP = 16;

/** Labels one below the other, each as near to its antenna as the others let it. */
function spread(wanted: readonly number[]): number[] {
  const placed: number[] = [];
  for (const y of wanted) placed.push(Math.max(y, (placed.at(-1) ?? -Infinity) + LABEL_STEP));
  const over = Math.max(0, (placed.at(-1) ?? 0) - (HEIGHT - BOTTOM));
  return placed.map((y) => y - over);
}

/** A mast to scale, its antennas by height and by the way they look: east to the right. Each is moved by mouse, touch or arrows. */
export function MastDrawing({
  hung,
  structureHeightM,
  chosenId,
  onHeight,
  onChoose,
}: {
  /** From the top down. */
  hung: readonly OnMast[];
  structureHeightM: number;
  chosenId: string | null;
  onHeight: (radioId: string, heightM: number) => void;
  onChoose: (radioId: string) => void;
}) {
  const formats = useFormats();
  const topM = Math.max(2, structureHeightM, ...hung.map(({ end }) => end.radio.heightM)) * 1.05;
  const yOf = (heightM: number) => HEIGHT - BOTTOM - (heightM / topM) * (HEIGHT - TOP - BOTTOM);
  const heightAt = (y: number) => ((HEIGHT - BOTTOM - y) / (HEIGHT - TOP - BOTTOM)) * topM;
  const stepM = topM > 60 ? 20 : topM > 25 ? 10 : topM > 12 ? 5 : 2;
  const labels = spread(hung.map(({ end }) => yOf(end.radio.heightM)));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full max-w-md touch-none select-none"
      role="group"
      aria-label={`The mast to scale, ${formats.height(structureHeightM)} high`}
    >
      {Array.from({ length: Math.floor(topM / stepM) + 1 }, (_, i) => i * stepM).map((heightM) => (
        <g key={heightM}>
          <line x1={34} x2={WIDTH - 8} y1={yOf(heightM)} y2={yOf(heightM)} stroke="var(--rule)" />
          <text x={30} y={yOf(heightM) + 4} textAnchor="end" className="figures fill-quiet text-[11px]">
            {formats.height(heightM, 0)}
          </text>
        </g>
      ))}
      <line x1={34} x2={WIDTH - 8} y1={yOf(0)} y2={yOf(0)} stroke="var(--ink)" strokeWidth="1.5" />
      <path
        d={`M${MAST_X - 7} ${yOf(0)}L${MAST_X - 2} ${yOf(structureHeightM)}H${MAST_X + 2}L${MAST_X + 7} ${yOf(0)}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <text x={MAST_X} y={HEIGHT - 6} textAnchor="middle" className="fill-quiet text-[11px]">
        west ← → east
      </text>
      {hung.map(({ end, headingDeg, isNear }, i) => {
        const { radio, antenna } = end;
        const isChosen = radio.id === chosenId;
        const y = yOf(radio.heightM);
        const side = headingDeg === null ? 0 : Math.sin((headingDeg * Math.PI) / 180);
        const x = MAST_X + side * ARM;
        const { publicM } = keepAwayM({ end, headingDeg, isNear }, hung);
        const frontM = `${figure(Math.ceil(publicM * 10) / 10)} m`;
        // To the scale of the heights; toward the reader it is seen end on.
        const reach = Math.max(4, (publicM / topM) * (HEIGHT - TOP - BOTTOM));
        const front = x + Math.sign(side || 1) * Math.max(4, reach * Math.abs(side));
        const text = `${radio.name}, ${headingDeg === null ? "all round" : `${figure(headingDeg, 0)}°`}, ${formats.height(radio.heightM)}`;
        const move = (heightM: number) => {
          const next = Math.min(topM, Math.max(0, Math.round(heightM / STEP_M) * STEP_M));
          if (next !== radio.heightM) onHeight(radio.id, next);
        };
        const onKey = (event: KeyboardEvent) => {
          const by = { ArrowUp: STEP_M, ArrowDown: -STEP_M, PageUp: 5, PageDown: -5 }[event.key];
          if (by === undefined) return;
          event.preventDefault();
          move(radio.heightM + by * (event.shiftKey ? 10 : 1));
        };
        const onMove = (event: PointerEvent<SVGGElement>) => {
          if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
          const svg = event.currentTarget.ownerSVGElement!;
          const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
          move(heightAt(at.y));
        };
        return (
          <g
            key={radio.id}
            tabIndex={0}
            role="slider"
            aria-label={`Height of ${radio.name}`}
            aria-orientation="vertical"
            aria-valuenow={radio.heightM}
            aria-valuemin={0}
            aria-valuemax={Math.round(topM)}
            aria-valuetext={text}
            data-on-mast={radio.id}
            className="cursor-ns-resize outline-none [&:focus-visible>rect]:stroke-[3px]"
            onFocus={() => onChoose(radio.id)}
            onKeyDown={onKey}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={onMove}
          >
            {headingDeg === null ? (
              <circle cx={x} cy={y} r={reach} fill="none" stroke="var(--blocked)" strokeDasharray="3 2" />
            ) : (
              <path
                d={`M${x} ${y}L${front} ${y - reach / 3}V${y + reach / 3}Z`}
                fill="none"
                stroke="var(--blocked)"
                strokeDasharray="3 2"
              />
            )}
            <line x1={MAST_X} x2={x} y1={y} y2={y} stroke="var(--ink)" strokeWidth="1.5" />
            <rect x={x - 14} y={y - 12} width={28} height={24} fill="transparent" />
            {antenna.shape === "dish" || antenna.shape === "grid" ? (
              <circle
                cx={x}
                cy={y}
                r={8}
                fill="var(--panel)"
                stroke={isChosen ? "var(--clay)" : "var(--ink)"}
                strokeWidth={isChosen ? 3 : 1.5}
              />
            ) : (
              <rect
                x={x - 4}
                y={y - 10}
                width={8}
                height={20}
                rx={1.5}
                fill="var(--panel)"
                stroke={isChosen ? "var(--clay)" : "var(--ink)"}
                strokeWidth={isChosen ? 3 : 1.5}
              />
            )}
            <path d={`M${x + 10} ${y}L${LABEL_X - 4} ${labels[i]!}`} stroke="var(--rule)" fill="none" />
            <text
              // Drawn over the dashes of a front that reaches as far.
              style={{ paintOrder: "stroke" }}
              stroke="var(--ground)"
              strokeWidth={3}
              x={LABEL_X}
              y={labels[i]! + 4}
              className={`text-[12px] ${isChosen ? "fill-clay font-semibold" : "fill-ink"}`}
            >
              {text}
              <tspan className="fill-blocked font-normal"> keep {frontM} off</tspan>
              {radio.heightM > structureHeightM ? " – above the structure" : ""}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
