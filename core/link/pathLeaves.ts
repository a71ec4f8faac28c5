import { correctionOf, type LearnedCase } from "../learn";
import type { LinkEnd, Plan } from "../plan";
import type { PathAnswer } from "./answer";
import { learnedCaseOf } from "./spare";
import { inLeafShare, leafDbOf, leavesIn } from "./trees";

/** What leaves do to one path. */
export interface PathLeaves {
  /** The path in the plan's season, bare, and in leaf. */
  path: LearnedCase;
  bare: LearnedCase;
  inLeaf: LearnedCase;
  /** By how much less its trees take when they are bare, dB, by physics alone. */
  leafDb: number;
  /** What was learned of the path in leaf less what was learned of it bare, dB; 0 where nothing is in use. */
  leafLearnedDb: number;
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
  const [bare, inLeaf] = [pathWith(0), pathWith(1)];
  const { learned } = plan;
  const leafLearnedDb =
    leafDb > 0 && learned?.isOn && learned.readings > 0
      ? correctionOf(learned, inLeaf).db - correctionOf(learned, bare).db
      : 0;
  return { path, bare, inLeaf, leafDb, leafLearnedDb };
}
