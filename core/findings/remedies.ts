import { weakestMarginDb, type LinkAnswer } from "../link";
import { linkEnds, radiosTouched, type Patch, type Link, type Measurement, type World } from "../plan";
import { checkOf } from "./checks";
import type { RemedyCase } from "./checks/check";
import { checksOf, faultsOf } from "./faults";
import type { Fault } from "./finding";
import type { ProfileSource } from "../outcome";
import { addedEur, lostLinks, trialOf, type Remedy } from "../trial";
import { costChangeText, counted, figure, signedFigure } from "../words";

const MOST_REMEDIES = 4;

/** What a tried change makes of the link, in the figures a planner asks for. */
function effectOf(before: LinkAnswer, after: LinkAnswer, costEur: number): string {
  const path = after.path!;
  const margin = weakestMarginDb(after)!;
  const change = before.path ? ` (${signedFigure(margin - weakestMarginDb(before)!)} dB)` : "";
  return `${figure(path.clearance.worstShare, 2)} of the zone clear; margin ${figure(margin)} dB${change}; ${path.aToB.rateMbps.toFixed(0)}/${path.bToA.rateMbps.toFixed(0)} Mbit/s${costChangeText(costEur)}`;
}

/** The links besides `link` whose radios a change touches: a remedy must not cost them their service unseen. */
function touchedBeside(world: World, link: Link, patches: readonly Patch[]): Link[] {
  const touched = radiosTouched([world], patches);
  touched.delete(link.bRadioId);
  return [...world.links.values()].filter(
    (other) => other.id !== link.id && (touched.has(other.aRadioId) || touched.has(other.bRadioId)),
  );
}

/** Weaker total level of the two directions, dBm. */
const weakestTotalDbm = ({ path }: LinkAnswer) =>
  path ? Math.min(path.aToB.totalLevelDbm, path.bToA.totalLevelDbm) : -Infinity;

/**
 * Ways out of one fault. Each is tried on the whole link first and kept only if the fault is gone and no worse kind
 * has taken its place, and no other link has lost its service. What drops the link under the plan's floor of acceptance says so
 * and comes after what does not. Then served outcomes first, then the cheaper, then the smaller change.
 */
export function remediesFor(
  world: World,
  link: Link,
  answer: LinkAnswer,
  fault: Fault,
  measurement: Measurement | null,
  profileBetween: ProfileSource,
): Remedy[] {
  const { a, b } = linkEnds(world, link);
  const check = checkOf(fault.check);
  if (check.remedies) return check.remedies(world, fault, { profileBetween, checksOf });
  const had = new Set(faultsOf(world, link, answer, measurement).map((found) => found.check));
  const { proofFloorDbm } = world.plan;
  const stoodOnFloor = weakestTotalDbm(answer) >= proofFloorDbm;
  const found: (Remedy & { served: boolean; costEur: number; harms: number })[] = [];
  const before = trialOf(world, profileBetween);
  const given: RemedyCase = { world, link, a, b, answer, profileBetween };
  for (const { label, patches } of check.candidates?.(given, fault) ?? []) {
    const tried = before.after(patches);
    const after = tried.answer(link.id);
    const left = faultsOf(tried.world, tried.world.links.get(link.id)!, after, measurement);
    const resolved = !left.some((other) => other.check === fault.check && other.radioId === fault.radioId);
    if (!after.path || !resolved) continue;
    const passes = after.path.aToB.modulation !== null && after.path.bToA.modulation !== null;
    if (!passes && check.isAboutLevel) continue;
    const { mustGo = false } = check;
    if (left.some((other) => !had.has(other.check) && !(mustGo && checkOf(other.check).comesOfLessPower))) continue;
    const lost = lostLinks(before, tried, touchedBeside(world, link, patches));
    if (lost.length > 0 && !mustGo) continue;
    const floorDbm = weakestTotalDbm(after);
    const underFloor = stoodOnFloor && floorDbm < proofFloorDbm;
    const served = tried.isServed(link.id);
    const notes = [
      ...(underFloor
        ? [
            `falls to ${figure(floorDbm)} dBm, all chains together, under the plan's floor of ${figure(proofFloorDbm)} for acceptance`,
          ]
        : []),
      ...(lost.length > 0 ? [`${counted(lost.length, "other link is", "other links are")} no longer served`] : []),
    ];
    const costEur = addedEur(before, tried);
    const effect = [effectOf(answer, after, costEur), ...notes].join("; ");
    found.push({ label, effect, patches, visit: false, served, costEur, harms: notes.length });
  }
  return found
    .sort(
      (x, y) =>
        Number(y.served) - Number(x.served) ||
        x.harms - y.harms ||
        x.costEur - y.costEur ||
        x.patches.length - y.patches.length,
    )
    .slice(0, MOST_REMEDIES)
    .map(({ label, effect, patches, visit }) => ({ label, effect, patches, visit }));
}
