import { fresnelRadiusM } from "#core/propagation";
import { isMostElsewhere, obstructionsOf, wantedText, type PathAnswer } from "#core/link";
import type { LinkEnd } from "#core/plan";
import type { Profile } from "#core/terrain";
import { useEffect, useMemo, useRef, useState, type PointerEvent } from "react";
import { figure, STATE_LINES, useFormats } from "../ui";
import { MastHandle } from "./MastHandle";
import { SectionExport } from "./SectionExport";
import { bulgedM, nearestIndex, niceTicks, scalesFor, type Frame } from "./scales";

const COVER_FILLS = [
  "",
  "",
  "var(--cover-wood)",
  "var(--cover-windbreak)",
  "var(--cover-building)",
  "var(--cover-wood)",
];

/** Size of an element in CSS pixels, followed as it changes. */
function useSize() {
  const ref = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 640, height: 260 });
  useEffect(() => {
    if (!ref.current) return;
    const observer = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return [ref, size] as const;
}

function pathOf(points: [number, number][]): string {
  return points.map(([x, y], i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`).join("");
}

/** A label's height on the drawing, moved under a mast's own label where the two would lie on each other. */
function clearOfMasts(y: number, x: number, heads: readonly [headX: number, headY: number][]): number {
  for (const [headX, headY] of heads) {
    const mastLabelY = Math.max(12, headY - 16);
    if (Math.abs(headX - x) < 220 && Math.abs(mastLabelY - y) < 15) return headY + 24;
  }
  return y;
}

/** The cut along a path: ground, what stands on it, the ray, its zone, and the two masts as handles. */
export function Section({
  profile,
  path,
  a,
  b,
  kFactor,
  cursorKm,
  onCursor,
  onHeight,
}: {
  profile: Profile;
  path: PathAnswer;
  a: LinkEnd;
  b: LinkEnd;
  kFactor: number;
  cursorKm: number | null;
  onCursor: (km: number | null) => void;
  onHeight: (end: "a" | "b", heightM: number) => void;
}) {
  const formats = useFormats();
  const [ref, { width, height }] = useSize();
  const frame: Frame = { width, height, left: 52, right: 16, top: 26, bottom: 26 };
  const pathKm = profile.distanceM / 1000;
  const last = profile.groundAmslM.length - 1;
  const bulge = useMemo(() => bulgedM(profile, kFactor), [profile, kFactor]);

  // The range holds both structures whole, so that a drag never moves the scale under the hand.
  const [lowM, highM] = useMemo(() => {
    let low = Infinity;
    let high = -Infinity;
    for (let i = 0; i <= last; i++) {
      low = Math.min(low, profile.groundAmslM[i]! + bulge[i]!);
      high = Math.max(high, profile.groundAmslM[i]! + profile.coverHeightM[i]! + bulge[i]!);
    }
    high = Math.max(high, profile.groundAmslM[0]! + a.maxHeightM, profile.groundAmslM[last]! + b.maxHeightM);
    const pad = Math.max(6, (high - low) * 0.08);
    return [low - pad, high + pad];
  }, [profile, bulge, last, a.maxHeightM, b.maxHeightM]);
  const mirrored = a.place.lonDeg > b.place.lonDeg;
  const scales = scalesFor(frame, pathKm, lowM, highM, mirrored);

  const still = useMemo(() => {
    const own = scalesFor({ width, height, left: 52, right: 16, top: 26, bottom: 26 }, pathKm, lowM, highM, mirrored);
    const ground: [number, number][] = [];
    for (let i = 0; i <= last; i++)
      ground.push([own.x(profile.distancesKm[i]!), own.y(profile.groundAmslM[i]! + bulge[i]!)]);
    const floor = own.y(lowM);
    const bars = [2, 3, 4].map((code) => {
      let d = "";
      for (let i = 1; i < last; i++) {
        if ((profile.coverCode[i]! & 15) !== code || profile.coverHeightM[i] === 0) continue;
        const sides = [i - 1, i + 1].map((j) => own.x((profile.distancesKm[i]! + profile.distancesKm[j]!) / 2));
        const left = Math.min(...sides);
        const right = Math.max(...sides);
        const base = profile.groundAmslM[i]! + bulge[i]!;
        d += `M${left.toFixed(1)} ${own.y(base).toFixed(1)}V${own.y(base + profile.coverHeightM[i]!).toFixed(1)}H${(right + 0.3).toFixed(1)}V${own.y(base).toFixed(1)}Z`;
      }
      return { code, d };
    });
    let water = "";
    for (let i = 0; i < last; i++) {
      if (profile.coverCode[i] === 1 && profile.coverCode[i + 1] === 1) water += pathOf([ground[i]!, ground[i + 1]!]);
    }
    return {
      groundPath: `${pathOf(ground)}L${own.x(pathKm).toFixed(1)} ${floor}L${own.x(0)} ${floor}Z`,
      line: pathOf(ground),
      bars,
      water,
    };
  }, [profile, bulge, last, lowM, highM, pathKm, width, height, mirrored]);

  const { clearance, aAmslM, bAmslM } = path;
  const frequencyGHz = a.radio.frequencyMHz / 1000;
  const zone = (share: number) => {
    const upper: [number, number][] = [];
    const lower: [number, number][] = [];
    for (let i = 0; i <= 64; i++) {
      const km = (pathKm * i) / 64;
      const ray = aAmslM + ((bAmslM - aAmslM) * i) / 64;
      const radius = share * fresnelRadiusM({ fromKm: km, toKm: pathKm - km, frequencyGHz });
      upper.push([scales.x(km), scales.y(ray + radius)]);
      lower.push([scales.x(km), scales.y(ray - radius)]);
    }
    return { whole: `${pathOf([...upper, ...lower.reverse()])}Z`, lower: pathOf(lower) };
  };
  const rayAt = (km: number) => aAmslM + ((bAmslM - aAmslM) * km) / pathKm;
  const state = STATE_LINES[clearance.state];
  const worstX = scales.x(clearance.worstKm);
  const worstTop = obstructionsOf(profile, path)[clearance.worstIndex]! + bulge[clearance.worstIndex]!;
  const worstRadiusM = fresnelRadiusM({ fromKm: clearance.worstKm, toKm: pathKm - clearance.worstKm, frequencyGHz });
  const cursorIndex = cursorKm === null ? null : nearestIndex(profile.distancesKm, cursorKm);

  const onMove = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const km = scales.kmAt(event.clientX - box.left);
    onCursor(km >= 0 && km <= pathKm ? km : null);
  };
  // The blocked pattern leaves a gap where the line is cut.
  const gapKm = pathKm * 0.025;
  const rayParts: [number, number][] =
    clearance.state === "blocked"
      ? [
          [0, Math.max(0, clearance.worstKm - gapKm)],
          [Math.min(pathKm, clearance.worstKm + gapKm), pathKm],
        ]
      : [[0, pathKm]];
  const deepestX = scales.x(clearance.deepestKm);
  const isDeepestElsewhere = isMostElsewhere(clearance);
  const worstText = `${figure(clearance.worstShare, 2)} of the zone at ${formats.distance(clearance.worstKm * 1000)}${clearance.isMet ? "" : `, ${formats.height(clearance.worstIntrusionM)} short of ${wantedText(clearance, { kFactor })}`}`;
  const deepestText = `most missing: ${formats.height(clearance.intrusionM)} at ${formats.distance(clearance.deepestKm * 1000)}`;
  const labelRight = worstX > width - 300;
  const worstLabelY = clearOfMasts(
    Math.max(14, scales.y(Math.max(worstTop, rayAt(clearance.worstKm) + worstRadiusM)) - 8),
    worstX,
    [
      [scales.x(0), scales.y(path.aAmslM)],
      [scales.x(pathKm), scales.y(path.bAmslM)],
    ],
  );

  return (
    <div ref={ref} className="relative h-full w-full">
      <svg
        width={width}
        height={height}
        className="absolute inset-0 touch-none select-none"
        onPointerMove={onMove}
        onPointerLeave={() => onCursor(null)}
        role="group"
        aria-label={`Section from ${a.placeName} to ${b.placeName}: ${state.word}, ${worstText}${isDeepestElsewhere ? `; ${deepestText}` : ""}`}
      >
        {niceTicks(lowM, highM, Math.max(2, height / 50)).map((tick) => (
          <g key={tick}>
            <line
              x1={frame.left}
              x2={width - frame.right}
              y1={scales.y(tick)}
              y2={scales.y(tick)}
              stroke="var(--rule)"
            />
            <text x={frame.left - 6} y={scales.y(tick) + 4} textAnchor="end" className="figures fill-quiet text-[11px]">
              {formats.height(tick, 0)}
            </text>
          </g>
        ))}
        <path d={still.groundPath} fill="var(--earth)" />
        {still.bars.map(({ code, d }) => (
          <path key={code} d={d} fill={COVER_FILLS[code]} />
        ))}
        <path d={still.line} fill="none" stroke="var(--quiet)" />
        <path d={still.water} fill="none" stroke="var(--clear)" strokeWidth="2" />
        <path d={zone(1).whole} fill={state.colour} fillOpacity="0.1" stroke={state.colour} strokeOpacity="0.45" />
        <path d={zone(path.clearance.wantedShare).lower} fill="none" stroke={state.colour} strokeDasharray="3 3" />
        {rayParts.map(([from, to], i) => (
          <line
            key={i}
            x1={scales.x(from)}
            x2={scales.x(to)}
            y1={scales.y(rayAt(from))}
            y2={scales.y(rayAt(to))}
            stroke={state.colour}
            strokeWidth="2"
            strokeLinecap={clearance.state === "blocked" ? "round" : "butt"}
            strokeDasharray={state.dash.join(" ")}
          />
        ))}
        {last > 1 && (
          <g>
            <line
              x1={worstX}
              x2={worstX}
              y1={scales.y(worstTop)}
              y2={scales.y(rayAt(clearance.worstKm))}
              stroke={state.colour}
              strokeWidth="1.5"
            />
            <circle
              cx={worstX}
              cy={scales.y(worstTop)}
              r="4"
              fill="var(--panel)"
              stroke={state.colour}
              strokeWidth="2"
            />
            <text
              x={worstX + (labelRight ? -8 : 8)}
              y={worstLabelY}
              textAnchor={labelRight ? "end" : "start"}
              className="fill-ink text-xs font-medium"
              paintOrder="stroke"
              stroke="var(--panel)"
              strokeWidth="3"
            >
              {worstText}
            </text>
          </g>
        )}
        {isDeepestElsewhere && (
          <g>
            <line
              x1={deepestX}
              x2={deepestX}
              y1={scales.y(rayAt(clearance.deepestKm))}
              y2={scales.y(rayAt(clearance.deepestKm)) + 14}
              stroke={state.colour}
              strokeWidth="1.5"
              strokeDasharray="2 2"
            />
            <text
              x={deepestX + (deepestX > width - 300 ? -6 : 6)}
              y={scales.y(rayAt(clearance.deepestKm)) + 24}
              textAnchor={deepestX > width - 300 ? "end" : "start"}
              className="fill-ink text-[11px]"
              paintOrder="stroke"
              stroke="var(--panel)"
              strokeWidth="3"
            >
              {deepestText}
            </text>
          </g>
        )}
        {niceTicks(0, pathKm, Math.max(2, width / 120)).map((tick) => (
          <text
            key={tick}
            x={scales.x(tick)}
            y={height - 8}
            textAnchor="middle"
            className="figures fill-quiet text-[11px]"
          >
            {formats.distance(tick * 1000)}
          </text>
        ))}
        {cursorIndex !== null && cursorIndex >= 0 && cursorIndex <= last && (
          <g pointerEvents="none">
            <line
              x1={scales.x(cursorKm!)}
              x2={scales.x(cursorKm!)}
              y1={frame.top}
              y2={height - frame.bottom}
              stroke="var(--clay)"
            />
            <text x={width - frame.right} y={14} textAnchor="end" className="figures fill-quiet text-[11px]">
              {formats.distance(cursorKm! * 1000)} · ground {formats.height(profile.groundAmslM[cursorIndex]!)}
              {profile.coverHeightM[cursorIndex]! > 0
                ? ` + ${formats.height(profile.coverHeightM[cursorIndex]!)}`
                : ""}{" "}
              · ray {formats.height(rayAt(cursorKm!) - profile.groundAmslM[cursorIndex]! - bulge[cursorIndex]!)} above
            </text>
          </g>
        )}
        <MastHandle
          end={a}
          x={scales.x(0)}
          groundY={scales.y(profile.groundAmslM[0]!)}
          amslToY={scales.y}
          groundAmslM={profile.groundAmslM[0]!}
          yToAmsl={scales.amslAt}
          onHeight={(h) => onHeight("a", h)}
          labelSide={mirrored ? "left" : "right"}
        />
        <MastHandle
          end={b}
          x={scales.x(pathKm)}
          groundY={scales.y(profile.groundAmslM[last]!)}
          amslToY={scales.y}
          groundAmslM={profile.groundAmslM[last]!}
          yToAmsl={scales.amslAt}
          onHeight={(h) => onHeight("b", h)}
          labelSide={mirrored ? "right" : "left"}
        />
      </svg>
      <SectionExport
        holder={ref}
        profile={profile}
        path={path}
        frequencyGHz={frequencyGHz}
        kFactor={kFactor}
        name={`${a.placeName} - ${b.placeName}`}
      />
    </div>
  );
}
