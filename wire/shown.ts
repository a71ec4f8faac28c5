import type { Finding, StageId } from "#core/findings";
import type { Outcome } from "#core/outcome";

/** What was worked out of a plan, as far as a window is shown it. */
export interface Shown {
  outcome: Outcome;
  /** The first findings of each stage; `counts` has how many there are. */
  findings: readonly Finding[];
  counts: Record<StageId, number>;
}

/** Findings of each stage that a window is sent: more than anybody works through in a day. */
const MOST_FINDINGS = 100;

/** The first findings of each stage, in the order in which they stand; `counts` says how many each stage has. */
export function firstOfEach(
  findings: readonly Finding[],
  counts: Readonly<Record<StageId, number>>,
  most: number,
): Finding[] {
  const left = new Map(Object.entries(counts).map(([stage, count]) => [stage, Math.min(count, most)]));
  let wanted = [...left.values()].reduce((sum, count) => sum + count, 0);
  const first: Finding[] = [];
  for (const finding of findings) {
    if (wanted === 0) break;
    const count = left.get(finding.stage)!;
    if (count === 0) continue;
    left.set(finding.stage, count - 1);
    wanted--;
    first.push(finding);
  }
  return first;
}

/** What a window is shown of what was worked out. */
export function shownOf({
  outcome,
  findings,
  counts,
}: {
  outcome: Outcome;
  findings: readonly Finding[];
  counts: Readonly<Record<StageId, number>>;
}): Shown {
  return { outcome, findings: firstOfEach(findings, counts, MOST_FINDINGS), counts: { ...counts } };
}

/** What is shown now, to a window that has been shown something before: findings that it has are named by their ids alone. */
export interface ShownSince extends Omit<Shown, "findings"> {
  ids: string[];
  fresh: Finding[];
}

export function shownSince(now: Shown, before: readonly Finding[]): ShownSince {
  const { outcome, counts, findings } = now;
  const known = new Set(before);
  return { outcome, counts, ids: findings.map(({ id }) => id), fresh: findings.filter((one) => !known.has(one)) };
}

/** What a window is shown that was shown `before`. Null where it has not what the server takes it to have. */
export function shownAfter({ ids, fresh, ...rest }: ShownSince, before: readonly Finding[]): Shown | null {
  const known = new Map([...before, ...fresh].map((finding) => [finding.id, finding]));
  const findings = ids.map((id) => known.get(id));
  return findings.every((one) => one !== undefined) ? { ...rest, findings } : null;
}
