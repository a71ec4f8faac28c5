import type { Finding } from "#core/findings";
import type { Outcome } from "#core/outcome";
import { countsOf } from "./stages";
import type { Shown } from "./plan";

/** Findings of each stage that a window is sent: more than anybody works through in a day. */
const MOST_FINDINGS = 100;

/** The first findings of each stage, in the order in which they stand. */
export function firstOfEach(findings: readonly Finding[], most: number): Finding[] {
  const seen = new Map<string, number>();
  return findings.filter(({ stage }) => {
    const count = (seen.get(stage) ?? 0) + 1;
    seen.set(stage, count);
    return count <= most;
  });
}

/** What a window is shown of what was worked out. */
export function shownOf({ outcome, findings }: { outcome: Outcome; findings: readonly Finding[] }): Shown {
  return { outcome, findings: firstOfEach(findings, MOST_FINDINGS), counts: countsOf(findings) };
}
