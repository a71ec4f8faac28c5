import { normalizeAzimuthDeg } from "#core/geodesy";
import type { Radio, World } from "#core/plan";
import {
  azimuthLossDb,
  edgesOf,
  HORIZON_STEP_DEG,
  shareOfDistance,
  type HeadingRow,
  type SectorCustomer,
  type SiteAround,
} from "#core/sectors";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Selection } from "../../desk/selection";
import { figure, TILE_PATH, useFormats } from "../../ui";

const RADIUS = 150;
/** The ground's horizon stands in a band outside the circle, so many units a degree. */
const HORIZON_UNITS_PER_DEG = 4;
const MOST_HORIZON_DEG = 5;
const RINGS = 4;
/** Longest stroke at the rim for what a heading would serve. */
const HEADING_STROKE = 12;
const EDGE_DASHES: Record<number, string> = { 3: "", 6: "7 4", 12: "1.5 4" };

const onCircle = (bearingDeg: number, radius: number): [number, number] => {
  const angle = ((bearingDeg - 90) * Math.PI) / 180;
  return [radius * Math.cos(angle), radius * Math.sin(angle)];
};
const point = ([x, y]: [number, number]) => `${x.toFixed(1)} ${y.toFixed(1)}`;

/** Where, in free space, a sector's level is that of its farthest customer ahead, as a closed curve. */
function patternPath(world: World, radio: Radio, reach: number): string {
  const antenna = world.antennaModels.get(radio.antennaModelId)!;
  const heading = radio.azimuthDeg ?? 0;
  let path = "";
  for (let off = -180; off < 180; off += 2) {
    const share = shareOfDistance(azimuthLossDb(antenna, radio.polarization, off));
    path += `${path ? "L" : "M"}${point(onCircle(heading + off, Math.min(1, share) * reach))}`;
  }
  return `${path}Z`;
}

/** The ground's horizon outside the circle: the higher it stands, the farther out. */
function horizonPath({ horizonDeg }: SiteAround): string {
  let path = "";
  horizonDeg.forEach((deg, i) => {
    const up = Math.max(0, Math.min(MOST_HORIZON_DEG, deg ?? 0));
    path += `${path ? "L" : "M"}${point(onCircle(i * HORIZON_STEP_DEG, RADIUS + 3 + up * HORIZON_UNITS_PER_DEG))}`;
  });
  return `${path}Z`;
}

/** A sector's heading, to be dragged round, or turned with the arrow keys. */
function Heading({
  radio,
  isChosen,
  onTurn,
  onChoose,
}: {
  radio: Radio;
  isChosen: boolean;
  onTurn: (azimuthDeg: number) => void;
  onChoose: () => void;
}) {
  const azimuthDeg = radio.azimuthDeg ?? 0;
  const turn = (wanted: number) => {
    const next = normalizeAzimuthDeg(Math.round(wanted));
    if (next !== azimuthDeg) onTurn(next);
  };
  const onMove = (event: PointerEvent<SVGGElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const svg = event.currentTarget.ownerSVGElement!;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM()!.inverse());
    turn((Math.atan2(at.x, -at.y) * 180) / Math.PI);
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    turn(azimuthDeg + by * (event.shiftKey ? 10 : 1));
  };
  const [x, y] = onCircle(azimuthDeg, RADIUS);
  const colour = isChosen ? "var(--clay)" : "var(--quiet)";
  return (
    <g
      tabIndex={0}
      role="slider"
      aria-label={`Heading of ${radio.name}`}
      aria-valuenow={azimuthDeg}
      aria-valuemin={0}
      aria-valuemax={359}
      aria-valuetext={`${azimuthDeg}° true`}
      data-heading={radio.id}
      onFocus={onChoose}
      onKeyDown={onKey}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={onMove}
      className="cursor-grab touch-none outline-none [&:focus-visible>circle]:stroke-[4px]"
    >
      <line x1={x * 0.04} y1={y * 0.04} x2={x} y2={y} stroke={colour} strokeWidth={isChosen ? 1.6 : 1} />
      <circle cx={x} cy={y} r="13" fill="transparent" />
      <circle cx={x} cy={y} r="5.5" fill={isChosen ? "var(--clay)" : "var(--panel)"} stroke={colour} strokeWidth="2" />
    </g>
  );
}

/** A customer's mark: filled when served, crossed when not, hollow when another site or nobody serves him. */
export function CustomerMark({ state }: { state: CustomerState }) {
  const stroke = { served: "var(--clear)", unserved: "var(--blocked)", elsewhere: "var(--quiet)", none: "var(--ink)" }[
    state
  ];
  return (
    <g fill={state === "served" ? stroke : "var(--panel)"} stroke={stroke} strokeWidth="1.4">
      <path d={TILE_PATH} strokeDasharray={state === "none" ? "2 1.6" : undefined} />
      {state === "unserved" && <path d="M-6 -6L6 6M6 -6L-6 6" strokeWidth="1.8" />}
    </g>
  );
}
export type CustomerState = "served" | "unserved" | "elsewhere" | "none";
export const CUSTOMER_WORDS: Record<CustomerState, string> = {
  served: "served from here",
  unserved: "linked from here, not served",
  elsewhere: "linked from another site",
  none: "not linked yet",
};

/** Somebody on the rose. */
export interface OnRose {
  subscriberId: string;
  name: string;
  bearingDeg: number;
  distanceM: number;
  state: CustomerState;
  pick: NonNullable<Selection>;
  isChosen: boolean;
}

/**
 * A site seen from above: bearing round, distance outward. Each sector's curve is where its level in free space is that of its own
 * farthest customer; its edges at −3, −6 and −12 dB are lines outward; the ground's horizon stands outside the circle.
 */
export function Rose({
  world,
  around,
  sectors,
  chosenId,
  people,
  customersOf,
  headings,
  onTurn,
  onSelect,
}: {
  world: World;
  around: SiteAround;
  sectors: readonly Radio[];
  chosenId: string | null;
  people: readonly OnRose[];
  customersOf: (radioId: string) => readonly SectorCustomer[];
  /** What the chosen sector would serve by its heading. */
  headings: readonly HeadingRow[] | null;
  onTurn: (radioId: string, azimuthDeg: number) => void;
  onSelect: (pick: NonNullable<Selection>) => void;
}) {
  const formats = useFormats();
  const svg = useRef<SVGSVGElement>(null);
  const site = world.sites.get(around.siteId)!;
  const mostServed = Math.max(1, ...(headings ?? []).map(({ peopleServed }) => peopleServed));
  const scale = RADIUS / around.radiusM;
  const chosen = sectors.find(({ id }) => id === chosenId);
  const reachOf = (radio: Radio) =>
    Math.max(0, ...customersOf(radio.id).map(({ distanceM }) => distanceM)) * scale || RADIUS * 0.6;
  const edges =
    chosen && chosen.azimuthDeg !== null
      ? edgesOf(world.antennaModels.get(chosen.antennaModelId)!, chosen.polarization).filter(
          ({ leftDeg, rightDeg }) => leftDeg + rightDeg < 360,
        )
      : [];
  return (
    <svg
      ref={svg}
      viewBox="-186 -182 372 364"
      className="h-full w-full"
      role="group"
      aria-label={`${site.name} seen from above: ${sectors.length} sectors, ${people.length} customers by bearing and distance`}
    >
      <path
        d={`${horizonPath(around)}M${RADIUS} 0A${RADIUS} ${RADIUS} 0 1 0 ${-RADIUS} 0A${RADIUS} ${RADIUS} 0 1 0 ${RADIUS} 0Z`}
        fill="var(--rule)"
        fillRule="evenodd"
      >
        <title>The ground’s horizon: the farther out, the higher it stands above the level of the sectors</title>
      </path>
      {Array.from({ length: RINGS }, (_, i) => {
        const radius = (RADIUS * (i + 1)) / RINGS;
        return (
          <g key={i}>
            <circle r={radius} fill={i === RINGS - 1 ? "var(--panel)" : "none"} fillOpacity="0" stroke="var(--rule)" />
            <text x={2} y={-radius + 9} fontSize="8" fill="var(--quiet)" className="figures">
              {formats.distance((around.radiusM * (i + 1)) / RINGS)}
            </text>
          </g>
        );
      })}
      {Array.from({ length: 12 }, (_, i) => {
        const [x, y] = onCircle(i * 30, RADIUS);
        const [lx, ly] = onCircle(i * 30, RADIUS + 27);
        return (
          <g key={i}>
            <line x2={x} y2={y} stroke="var(--rule)" strokeWidth="0.6" />
            <text x={lx} y={ly + 3} textAnchor="middle" fontSize="9" fill="var(--quiet)" className="figures">
              {i % 3 === 0 ? ["N", "E", "S", "W"][i / 3] : `${i * 30}°`}
            </text>
          </g>
        );
      })}
      {headings && (
        <g data-headings stroke="var(--clay)" strokeWidth="3" strokeOpacity="0.3">
          <title>
            The longer the stroke at the rim, the more people the chosen sector would serve if it looked there
          </title>
          {headings.map(({ azimuthDeg, peopleServed }) => {
            const [x1, y1] = onCircle(azimuthDeg, RADIUS);
            const [x2, y2] = onCircle(azimuthDeg, RADIUS - (peopleServed / mostServed) * HEADING_STROKE);
            return <line key={azimuthDeg} x1={x1} y1={y1} x2={x2} y2={y2} />;
          })}
        </g>
      )}
      {sectors.map((radio) => {
        const isChosen = radio.id === chosenId;
        return (
          <path
            key={radio.id}
            d={patternPath(world, radio, reachOf(radio))}
            fill={isChosen ? "var(--clay)" : "var(--quiet)"}
            fillOpacity={isChosen ? 0.14 : 0.08}
            stroke={isChosen ? "var(--clay)" : "var(--quiet)"}
            strokeWidth={isChosen ? 1.6 : 1}
            data-pattern={radio.id}
          />
        );
      })}
      {edges.flatMap(({ depthDb, leftDeg, rightDeg }) =>
        [-leftDeg, rightDeg].map((off) => {
          const [x, y] = onCircle(chosen!.azimuthDeg! + off, RADIUS);
          const [lx, ly] = onCircle(chosen!.azimuthDeg! + off, RADIUS + 10);
          return (
            <g key={`${depthDb} ${off}`} data-edge={depthDb}>
              <line x2={x} y2={y} stroke="var(--clay)" strokeWidth="1" strokeDasharray={EDGE_DASHES[depthDb]} />
              <text x={lx} y={ly + 3} textAnchor="middle" fontSize="8" fill="var(--clay)" className="figures">
                {figure(-depthDb, 0)}
              </text>
            </g>
          );
        }),
      )}
      {people.map((one) => (
        <g
          key={one.subscriberId}
          transform={`translate(${point(onCircle(one.bearingDeg, one.distanceM * scale))})`}
          onClick={() => onSelect(one.pick)}
          className="cursor-pointer"
          data-customer={one.subscriberId}
        >
          <title>{`${one.name}: ${formats.distance(one.distanceM)}, ${figure(one.bearingDeg, 0)}° true, ${CUSTOMER_WORDS[one.state]}`}</title>
          {one.isChosen && <circle r="9" fill="none" stroke="var(--clay)" strokeWidth="2" />}
          <circle r="7" fill="transparent" />
          <g transform="scale(0.72)">
            <CustomerMark state={one.state} />
          </g>
        </g>
      ))}
      <circle r="3" fill="var(--ink)" />
      {sectors
        .filter(({ azimuthDeg }) => azimuthDeg !== null)
        .map((radio) => (
          <Heading
            key={radio.id}
            radio={radio}
            isChosen={radio.id === chosenId}
            onTurn={(azimuthDeg) => onTurn(radio.id, azimuthDeg)}
            onChoose={() => radio.id !== chosenId && onSelect({ kind: "radio", id: radio.id })}
          />
        ))}
    </svg>
  );
}
