import type { PathAnswer } from "#core/link";
import type { LinkEnd } from "#core/plan";
import type { Profile } from "#core/terrain";
import { useEffect, useMemo, useRef, useState, type PointerEvent } from "react";
import { STATE_LINES, useFormats } from "../ui";
import { ClearanceMarks, useClearanceTexts } from "./ClearanceMarks";
import { MastHandle } from "./MastHandle";
import { SectionExport } from "./SectionExport";
import { bulgedM, nearestIndex, niceTicks, scalesFor, type Frame } from "./scales";
import { groundShapes, shownHeightsM, zoneShapes } from "./shapes";

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

const frameOf = (width: number, height: number): Frame => ({
  ...{ width, height },
  ...{ left: 52, right: 16, top: 26, bottom: 26 },
});

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
  const frame = frameOf(width, height);
  const pathKm = profile.distanceM / 1000;
  const last = profile.groundAmslM.length - 1;
  const bulge = useMemo(() => bulgedM(profile, kFactor), [profile, kFactor]);

  const [lowM, highM] = useMemo(
    () => shownHeightsM(profile, bulge, { a: a.maxHeightM, b: b.maxHeightM }),
    [profile, bulge, a.maxHeightM, b.maxHeightM],
  );
  const mirrored = a.place.lonDeg > b.place.lonDeg;
  const scales = scalesFor(frame, pathKm, lowM, highM, mirrored);

  const still = useMemo(
    () => groundShapes(profile, bulge, scalesFor(frameOf(width, height), pathKm, lowM, highM, mirrored)),
    [profile, bulge, lowM, highM, pathKm, width, height, mirrored],
  );

  const { clearance, aAmslM, bAmslM } = path;
  const frequencyGHz = a.radio.frequencyMHz / 1000;
  const zone = (share: number) => zoneShapes(share, { pathKm, aAmslM, bAmslM, frequencyGHz }, scales);
  const rayAt = (km: number) => aAmslM + ((bAmslM - aAmslM) * km) / pathKm;
  const state = STATE_LINES[clearance.state];
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
  const texts = useClearanceTexts(path, kFactor);

  return (
    <div ref={ref} className="relative h-full w-full">
      <svg
        width={width}
        height={height}
        className="absolute inset-0 touch-none select-none"
        onPointerMove={onMove}
        onPointerLeave={() => onCursor(null)}
        role="group"
        aria-label={`Section from ${a.placeName} to ${b.placeName}: ${state.word}, ${[texts.worst, texts.deepest].filter((text) => text !== "").join("; ")}`}
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
        <path d={still.ground} fill="var(--earth)" />
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
        <ClearanceMarks {...{ profile, path, scales, frequencyGHz, texts }} bulgeM={bulge} widthPx={width} />
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
