import { beamReachDeg, type AntennaModel } from "#core/antenna";
import { bracketReach } from "#core/aiming";
import type { LinkEnd } from "#core/plan";
import { bestTilt, type SectorCustomer, type TiltRow } from "#core/sectors";
import type { KeyboardEvent, PointerEvent } from "react";
import type { Selection } from "../../desk/selection";
import { figure, useFormats } from "../../ui";
import { CustomerMark } from "./Rose";

const WIDTH = 640;
const HEIGHT = 210;
const LEFT = 44;
const RIGHT = 150;
const TOP = 14;
const BOTTOM = 26;
const STEP_DEG = 0.5;
/** Angles beyond these are drawn at the edge. */
const LEAST_SPAN_DEG = 6;

/** Where the vertical beam has fallen by 3 dB above and below its middle, degrees, on the weaker side of both polarizations. */
function beamHalves({ elevationCuts: { H, V } }: AntennaModel): { upDeg: number; downDeg: number } {
  return {
    upDeg: Math.min(beamReachDeg(H, 3, 1), beamReachDeg(V, 3, 1)),
    downDeg: Math.min(beamReachDeg(H, 3, -1), beamReachDeg(V, 3, -1)),
  };
}

/**
 * A sector seen from the side: how far below the level each customer stands, the vertical beam across it, and beside it how many
 * people each tilt would serve. The beam's middle is dragged, or moved with the arrow keys.
 */
export function Elevation({
  end,
  customers,
  tilts,
  chosenLinkId,
  onTilt,
  onSelect,
}: {
  end: LinkEnd;
  customers: readonly SectorCustomer[];
  tilts: readonly TiltRow[] | null;
  chosenLinkId: string | null;
  onTilt: (mechanicalDeg: number) => void;
  onSelect: (pick: NonNullable<Selection>) => void;
}) {
  const formats = useFormats();
  const { radio, antenna } = end;
  const electricalDeg = antenna.electricalTiltDownDeg;
  const mechanicalDeg = radio.tiltDownDeg ?? 0;
  const middleDeg = mechanicalDeg + electricalDeg;
  const { upDeg, downDeg } = beamHalves(antenna);
  const angles = customers.map(({ tiltDownDeg }) => tiltDownDeg);
  const most = Math.max(LEAST_SPAN_DEG, middleDeg + downDeg + 1, ...angles.map((deg) => deg + 1));
  const least = Math.min(-2, middleDeg - upDeg - 1, ...angles.map((deg) => deg - 1));
  const farthestM = Math.max(500, ...customers.map(({ distanceM }) => distanceM)) * 1.05;
  const y = (deg: number) => TOP + ((deg - least) / (most - least)) * (HEIGHT - TOP - BOTTOM);
  const x = (m: number) => LEFT + (m / farthestM) * (WIDTH - LEFT - RIGHT);
  const reach = bracketReach(end);
  const set = (wanted: number) => {
    const bounded = Math.min(reach.downDeg, Math.max(-reach.upDeg, wanted));
    const next = Math.round(bounded / STEP_DEG) * STEP_DEG;
    if (next !== mechanicalDeg) onTilt(next);
  };
  const onMove = (event: PointerEvent<SVGGElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const svg = event.currentTarget.ownerSVGElement!;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
    set(least + ((at.y - TOP) / (HEIGHT - TOP - BOTTOM)) * (most - least) - electricalDeg);
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    set(mechanicalDeg + by * STEP_DEG * (event.shiftKey ? 10 : 1));
  };
  const best = tilts && bestTilt(tilts);
  const mostPeople = Math.max(1, ...(tilts ?? []).map(({ peopleServed }) => peopleServed));
  const barLeft = WIDTH - RIGHT + 34;
  const barWidth = RIGHT - 44;
  const stepPx = Math.abs(y(STEP_DEG) - y(0));
  const ticks = Array.from({ length: 5 }, (_, i) => Math.round(least + ((most - least) * i) / 4));
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-full w-full"
      role="group"
      aria-label={`${radio.name} from the side: customers by distance and angle below the level`}
    >
      {[...new Set(ticks)].map((deg) => (
        <g key={deg}>
          <line x1={LEFT} x2={WIDTH - RIGHT} y1={y(deg)} y2={y(deg)} stroke="var(--rule)" />
          <text x={LEFT - 5} y={y(deg) + 3} textAnchor="end" fontSize="10" fill="var(--quiet)" className="figures">
            {figure(-deg, 0)}°
          </text>
        </g>
      ))}
      <line x1={LEFT} x2={WIDTH - RIGHT} y1={y(0)} y2={y(0)} stroke="var(--quiet)" strokeWidth="1.2" />
      {[0, 0.25, 0.5, 0.75, 1].map((share) => (
        <text
          key={share}
          x={x(farthestM * share)}
          y={HEIGHT - 8}
          textAnchor="middle"
          fontSize="10"
          fill="var(--quiet)"
          className="figures"
        >
          {formats.distance(farthestM * share)}
        </text>
      ))}
      <rect
        x={LEFT}
        width={WIDTH - LEFT - RIGHT}
        y={y(middleDeg - upDeg)}
        height={Math.max(1, y(middleDeg + downDeg) - y(middleDeg - upDeg))}
        fill="var(--clay)"
        fillOpacity="0.12"
      >
        <title>Within 3 dB of the beam’s peak, straight ahead</title>
      </rect>
      {customers.map((one) => (
        <g
          key={one.linkId}
          transform={`translate(${x(one.distanceM).toFixed(1)} ${y(one.tiltDownDeg).toFixed(1)})`}
          onClick={() => onSelect({ kind: "link", id: one.linkId })}
          className="cursor-pointer"
        >
          <title>{`${one.name}: ${figure(one.tiltDownDeg, 1)}° below the level, ${figure(Math.abs(one.elevationOffDeg), 1)}° off the beam’s middle there`}</title>
          {one.linkId === chosenLinkId && <circle r="9" fill="none" stroke="var(--clay)" strokeWidth="2" />}
          <g transform="scale(0.8)">
            <CustomerMark state={one.isServed ? "served" : "unserved"} />
          </g>
        </g>
      ))}
      <g
        tabIndex={0}
        role="slider"
        aria-label={`Tilt of ${radio.name}`}
        aria-orientation="vertical"
        aria-valuenow={mechanicalDeg}
        aria-valuemin={-reach.upDeg}
        aria-valuemax={reach.downDeg}
        aria-valuetext={`${figure(mechanicalDeg, 1)}° down by the bracket, ${figure(electricalDeg, 1)}° electrical`}
        data-tilt={radio.id}
        onKeyDown={onKey}
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={onMove}
        className="cursor-ns-resize touch-none outline-none [&:focus-visible>circle]:stroke-[4px]"
      >
        <line x1={LEFT} x2={WIDTH - RIGHT} y1={y(middleDeg)} y2={y(middleDeg)} stroke="var(--clay)" strokeWidth="1.8" />
        <rect x={LEFT} width={WIDTH - LEFT - RIGHT} y={y(middleDeg) - 8} height="16" fill="transparent" />
        <circle cx={WIDTH - RIGHT} cy={y(middleDeg)} r="6" fill="var(--clay)" stroke="var(--clay)" strokeWidth="2" />
      </g>
      <text x={barLeft} y={TOP - 3} fontSize="10" fill="var(--quiet)">
        people served, by tilt
      </text>
      {tilts?.map((row) => {
        const at = y(row.mechanicalDeg + electricalDeg);
        if (at < TOP + 5 || at > HEIGHT - BOTTOM + 1) return null;
        const isBest = row === best;
        return (
          <g key={row.mechanicalDeg} data-tilt-row={row.mechanicalDeg}>
            <title>{`${figure(row.mechanicalDeg, 1)}° by the bracket: ${row.customersServed} customers, ${row.peopleServed} people served`}</title>
            <rect
              x={barLeft}
              y={at - stepPx * 0.4}
              width={(row.peopleServed / mostPeople) * barWidth}
              height={Math.max(1, stepPx * 0.8)}
              fill={isBest ? "var(--clay)" : "var(--quiet)"}
              fillOpacity={isBest ? 1 : 0.45}
            />
          </g>
        );
      })}
    </svg>
  );
}
