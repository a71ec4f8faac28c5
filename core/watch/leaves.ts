import { correctionOf, type LearnedCase } from "../learn";
import { inLeafShare, leafDbOf, learnedCaseOf, leavesIn, type PathAnswer } from "../link";
import type { LinkEnd, Plan } from "../plan";

/** What leaves do to one path. */
export interface PathLeaves {
  /** By how much less its trees take when they are bare, dB, by physics alone. */
  leafDb: number;
  /** What was learned of the path in leaf less what was learned of it bare, dB; 0 where nothing is in use. */
  learnedDb: number;
  /** The path as it is while so many of all leaves stand. */
  pathWith: (leaves: number) => LearnedCase;
}

export function pathLeaves(plan: Plan, ends: { a: LinkEnd; b: LinkEnd }, answer: PathAnswer): PathLeaves {
  const { trees, aToB } = answer;
  const path = learnedCaseOf(plan, ends, answer);
  const leafDb = leafDbOf(trees, aToB.question.path.frequencyMHz / 1000);
  const pathWith = (leaves: number): LearnedCase => ({
    ...path,
    treesDb: path.treesDb + leafDb * (leaves - leavesIn(plan.season)),
    inLeafShare: inLeafShare(trees.leafyShare, leaves),
  });
  const { learned } = plan;
  const learnedDb =
    leafDb > 0 && learned?.isOn && learned.readings > 0
      ? correctionOf(learned, pathWith(1)).db - correctionOf(learned, pathWith(0)).db
      : 0;
  return { leafDb, learnedDb, pathWith };
}
