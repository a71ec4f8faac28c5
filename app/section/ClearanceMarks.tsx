import { fresnelRadiusM } from "#core/propagation";
import { isMostElsewhere, obstructionsOf, wantedText, type PathAnswer } from "#core/link";
import type { Profile } from "#core/terrain";
import { figure, STATE_LINES, useFormats } from "../ui";
import type { Scales } from "./scales";

/** A label's height on the drawing, moved under a mast's own label where the two would lie on each other. */
function clearOfMasts(y: number, x: number, heads: readonly [headX: number, headY: number][]): number {
  for (const [headX, headY] of heads) {
    const mastLabelY = Math.max(12, headY - 16);
    if (Math.abs(headX - x) < 220 && Math.abs(mastLabelY - y) < 15) return headY + 24;
  }
  return y;
}

/** Where the zone is least clear, and where most of it is missing, in words; the second is empty where both are one place. */
export function useClearanceTexts({ clearance }: PathAnswer, kFactor: number): { worst: string; deepest: string } {
  const formats = useFormats();
  const short = clearance.isMet
    ? ""
    : `, ${formats.height(clearance.worstIntrusionM)} short of ${wantedText(clearance, { kFactor })}`;
  return {
    worst: `${figure(clearance.worstShare, 2)} of the zone at ${formats.distance(clearance.worstKm * 1000)}${short}`,
    deepest: isMostElsewhere(clearance)
      ? `most missing: ${formats.height(clearance.intrusionM)} at ${formats.distance(clearance.deepestKm * 1000)}`
      : "",
  };
}

/** Labels that begin farther right than this from the edge end at their mark instead, px. */
const LABEL_PX = 300;

/** Marks the places that decide on the clearance. */
export function ClearanceMarks({
  profile,
  path,
  bulgeM,
  scales,
  widthPx,
  frequencyGHz,
  texts,
}: {
  profile: Profile;
  path: PathAnswer;
  bulgeM: Float64Array;
  scales: Scales;
  widthPx: number;
  frequencyGHz: number;
  texts: ReturnType<typeof useClearanceTexts>;
}) {
  const { clearance, aAmslM, bAmslM } = path;
  const pathKm = profile.distanceM / 1000;
  const state = STATE_LINES[clearance.state];
  const rayAt = (km: number) => aAmslM + ((bAmslM - aAmslM) * km) / pathKm;
  const worstX = scales.x(clearance.worstKm);
  const worstTop = obstructionsOf(profile, path)[clearance.worstIndex]! + bulgeM[clearance.worstIndex]!;
  const radiusM = fresnelRadiusM({
    fromKm: clearance.worstKm,
    toKm: pathKm - clearance.worstKm,
    frequencyGHz,
  });
  const worstLabelY = clearOfMasts(
    Math.max(14, scales.y(Math.max(worstTop, rayAt(clearance.worstKm) + radiusM)) - 8),
    worstX,
    [
      [scales.x(0), scales.y(aAmslM)],
      [scales.x(pathKm), scales.y(bAmslM)],
    ],
  );
  const labelRight = worstX > widthPx - LABEL_PX;
  const deepestX = scales.x(clearance.deepestKm);
  return (
    <>
      {profile.groundAmslM.length > 2 && (
        <g>
          <line
            x1={worstX}
            x2={worstX}
            y1={scales.y(worstTop)}
            y2={scales.y(rayAt(clearance.worstKm))}
            stroke={state.colour}
            strokeWidth="1.5"
          />
          <circle cx={worstX} cy={scales.y(worstTop)} r="4" fill="var(--panel)" stroke={state.colour} strokeWidth="2" />
          <text
            x={worstX + (labelRight ? -8 : 8)}
            y={worstLabelY}
            textAnchor={labelRight ? "end" : "start"}
            className="fill-ink text-xs font-medium"
            paintOrder="stroke"
            stroke="var(--panel)"
            strokeWidth="3"
          >
            {texts.worst}
          </text>
        </g>
      )}
      {texts.deepest !== "" && (
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
            x={deepestX + (deepestX > widthPx - LABEL_PX ? -6 : 6)}
            y={scales.y(rayAt(clearance.deepestKm)) + 24}
            textAnchor={deepestX > widthPx - LABEL_PX ? "end" : "start"}
            className="fill-ink text-[11px]"
            paintOrder="stroke"
            stroke="var(--panel)"
            strokeWidth="3"
          >
            {texts.deepest}
          </text>
        </g>
      )}
    </>
  );
}
