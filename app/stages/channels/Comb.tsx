import type { World } from "#core/plan";
import { formatDistanceToNowStrict } from "date-fns";
import type { KeyboardEvent, PointerEvent } from "react";
import { figure } from "../../ui";
import { CombScans, scansFor } from "./CombScans";
import { CombStretches, StretchPatterns } from "./CombStretches";
import { mastMates, type CombBand, type CombRow } from "./groups";

const WIDTH = 660;
const LEFT = 190;
const ROW = 30;
const HEAD = 22;
const TOP = 26;
/** Whether a row's channel lies within one of the stretches that rules and kit leave open. */
const isWithin = ({ open, frequencyMHz, widthMHz }: CombRow): boolean =>
  open.some(({ lowMHz, highMHz }) => lowMHz <= frequencyMHz - widthMHz / 2 && frequencyMHz + widthMHz / 2 <= highMHz);

/**
 * The comb: frequency across, one row for each access point or bridge by mast, its channel a block to drag or nudge; behind it what scans
 * heard there, and the channels that rules and kit leave open.
 */
export function Comb({
  world,
  band,
  chosenId,
  peopleLost,
  onMove,
  onChoose,
}: {
  world: World;
  band: CombBand;
  chosenId: string | null;
  /** People whose rate each group loses to the others now, by its access point. */
  peopleLost: ReadonlyMap<string, number>;
  onMove: (row: CombRow, frequencyMHz: number) => void;
  onChoose: (radioId: string) => void;
}) {
  const margin = (band.highMHz - band.lowMHz) * 0.01 + 1;
  const [low, high] = [band.lowMHz - margin, band.highMHz + margin];
  const xOf = (mhz: number) => LEFT + ((mhz - low) / (high - low)) * (WIDTH - LEFT - 6);
  const mhzAt = (x: number) => low + ((x - LEFT) / (WIDTH - LEFT - 6)) * (high - low);
  let y = TOP;
  const laid = band.rows.map((row, i) => {
    const isFirst = band.rows[i - 1]?.siteId !== row.siteId;
    if (isFirst) y += HEAD;
    const at = y;
    y += ROW;
    return { row, at, isFirst };
  });
  const height = y + 8;
  const span = high - low;
  const stepMHz = span > 4000 ? 1000 : span > 1500 ? 250 : span > 400 ? 100 : span > 120 ? 25 : 5;
  const ticks = Array.from(
    { length: Math.floor(high / stepMHz) - Math.ceil(low / stepMHz) + 1 },
    (_, i) => (Math.ceil(low / stepMHz) + i) * stepMHz,
  );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      className="w-full max-w-4xl touch-none select-none"
      role="group"
      aria-label={`Channels from ${band.name}`}
    >
      <StretchPatterns />
      {ticks.map((mhz) => (
        <g key={mhz}>
          <line x1={xOf(mhz)} x2={xOf(mhz)} y1={TOP - 6} y2={height} stroke="var(--rule)" />
          <text x={xOf(mhz)} y={14} textAnchor="middle" className="figures fill-quiet text-[11px]">
            {mhz}
          </text>
        </g>
      ))}
      <text x={LEFT - 8} y={14} textAnchor="end" className="fill-quiet text-[11px]">
        MHz
      </text>
      {laid.map(({ row, at, isFirst }) => {
        const scans = [...world.scans.values()].filter(({ siteId }) => siteId === row.siteId);
        const heard = scansFor(scans, row);
        const onMast = mastMates(band, row);
        const newest = scans
          .map(({ scannedAt }) => scannedAt)
          .sort()
          .at(-1);
        const isChosen = row.radioId === chosenId;
        const left = xOf(row.frequencyMHz - row.widthMHz / 2);
        const right = xOf(row.frequencyMHz + row.widthMHz / 2);
        const lost = peopleLost.get(row.radioId) ?? 0;
        const isOpen = isWithin(row);
        const move = (mhz: number) => {
          const { rasterMHz } = row;
          const [least, most] = [band.lowMHz + row.widthMHz / 2, band.highMHz - row.widthMHz / 2];
          const next = Math.min(most, Math.max(least, Math.round(mhz / rasterMHz) * rasterMHz));
          if (next !== row.frequencyMHz) onMove(row, next);
        };
        const onKey = (event: KeyboardEvent) => {
          const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
          if (by === undefined) return;
          event.preventDefault();
          move(row.frequencyMHz + by * (event.shiftKey ? row.widthMHz : row.rasterMHz));
        };
        const onPointer = (event: PointerEvent<SVGGElement>) => {
          if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
          const svg = event.currentTarget.ownerSVGElement!;
          const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
          move(mhzAt(point.x));
        };
        const words = `${row.name}, ${row.frequencyMHz} MHz, ${row.widthMHz} MHz wide`;
        return (
          <g key={row.radioId}>
            {isFirst && (
              <text x={2} y={at - 6} className="fill-ink text-[12px] font-semibold">
                {row.site}
                {newest && (
                  <tspan className="fill-quiet font-normal">
                    {" "}
                    · scanned {formatDistanceToNowStrict(new Date(newest))} ago
                  </tspan>
                )}
              </text>
            )}
            <text x={8} y={at + 19} className={`text-[12px] ${isChosen ? "fill-clay" : "fill-ink"}`}>
              {row.name}
              {!row.isBridge && (
                <tspan className="figures fill-quiet text-[11px]">
                  {" "}
                  {row.headingDeg === null ? "all round" : `${figure(row.headingDeg, 0)}°`}
                </tspan>
              )}
            </text>
            <text x={LEFT - 8} y={at + 19} textAnchor="end" className="figures fill-quiet text-[11px]">
              {row.frequencyMHz}
            </text>
            <rect x={LEFT} y={at + 2} width={WIDTH - LEFT - 6} height={ROW - 5} fill="var(--panel)" />
            <CombStretches row={row} xOf={xOf} top={at + 2} height={ROW - 5} />
            <CombScans scans={heard} xOf={xOf} between={[LEFT, WIDTH]} top={at + 2} height={ROW - 5} />
            {onMast.map((other) => (
              <rect
                key={other.radioId}
                x={xOf(other.frequencyMHz - other.widthMHz / 2)}
                y={at + 3}
                width={Math.max(
                  6,
                  xOf(other.frequencyMHz + other.widthMHz / 2) - xOf(other.frequencyMHz - other.widthMHz / 2),
                )}
                height={ROW - 7}
                fill="none"
                stroke="var(--quiet)"
                strokeDasharray="2 2"
              >
                <title>{`${other.name}, on the same mast`}</title>
              </rect>
            ))}
            <g
              tabIndex={0}
              role="slider"
              aria-label={`Channel of ${row.name}`}
              aria-valuenow={row.frequencyMHz}
              aria-valuemin={Math.round(band.lowMHz)}
              aria-valuemax={Math.round(band.highMHz)}
              aria-valuetext={words}
              data-channel={row.radioId}
              className="cursor-ew-resize outline-none [&:focus-visible>rect]:stroke-[3px]"
              onFocus={() => onChoose(row.radioId)}
              onKeyDown={onKey}
              onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
              onPointerMove={onPointer}
            >
              <title>{isOpen ? words : `${words}: outside what rules and kit leave open`}</title>
              <rect
                x={left}
                y={at + 5}
                width={Math.max(6, right - left)}
                height={ROW - 11}
                rx={2}
                fill={lost > 0 ? "var(--blocked)" : "var(--clear)"}
                fillOpacity={0.8}
                stroke={isChosen ? "var(--clay)" : "var(--ink)"}
                strokeWidth={isChosen ? 2.5 : 1}
                strokeDasharray={isOpen ? undefined : "4 3"}
              />
              {lost > 0 && (
                <path
                  d={`M${left + 2} ${at + ROW - 8}L${Math.min(right, left + 16)} ${at + 7}M${left + 8} ${at + ROW - 8}L${Math.min(right, left + 22)} ${at + 7}`}
                  stroke="var(--panel)"
                  strokeWidth="1.5"
                />
              )}
            </g>
          </g>
        );
      })}
    </svg>
  );
}
