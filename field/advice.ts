import type { SweepFit, SweepPoint } from "#core/aiming";
import type { AimAxis } from "#core/crews";
import type { CrewEnd } from "#core/install";
import { figure } from "#core/words";

const WAYS: Record<AimAxis, [less: string, more: string]> = {
  azimuth: ["to smaller angles", "to larger angles"],
  elevation: ["to smaller angles", "to larger angles"],
};
/** Closer than this nobody can turn a bracket by hand, degrees. */
const NEAR_DEG = 0.2;

/** What to do next by what a sweep shows, in one or two sentences. */
export function adviceOf(
  axis: AimAxis,
  points: readonly SweepPoint[],
  fit: SweepFit | null,
  { accept }: Pick<CrewEnd, "accept">,
): string {
  if (points.length === 0) return "Log levels as you turn: at least five, at even steps.";
  if (!fit) return `${points.length} of at least 5 levels. Go on turning the same way.`;
  const way = WAYS[axis][fit.turnDeg < 0 ? 0 : 1];
  const turn = `Turn ${figure(Math.abs(fit.turnDeg))}° ${way}`;
  if (fit.on === "unsure") return "This can be the main lobe or one beside it: sweep wider, both ways.";
  if (fit.on === "side")
    return `You stand beside the main lobe, ${figure(fit.belowPeakDb)} dB down. ${turn}, to ${figure(fit.peakDeg)}° on the scale.`;
  const isWeak = fit.peakDbm < accept.fromDbm;
  const weak = isWeak
    ? ` The peak is ${figure(accept.fromDbm - fit.peakDbm)} dB under the band: the far end may stand beside its own main lobe.`
    : "";
  if (!fit.isPassed) return `${turn}, and on past the peak: it has been seen from one side only.${weak}`;
  if (Math.abs(fit.turnDeg) <= NEAR_DEG) return `On the peak. Lock it, then read again.${weak}`;
  return `The peak is passed. ${turn}, back to ${figure(fit.peakDeg)}° on the scale.${weak}`;
}
