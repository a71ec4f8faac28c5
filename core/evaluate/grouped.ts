import {
  backboneOf,
  byPeopleHurt,
  CHECKS,
  linksOf,
  peopleBehind,
  planFindingOf,
  type Fault,
  type Finding,
  type LinkSummary,
} from "../findings";
import type { World } from "../plan";
import type { Found } from "./evaluation";

/** What is wrong with things that are no single link, by every check that looks at them. */
export function planFaults(
  world: World,
  summaries: ReadonlyMap<string, LinkSummary>,
): { finding: Finding; fault: Fault }[] {
  return CHECKS.flatMap(({ id: check, ofPlan }) =>
    (ofPlan?.(world, summaries) ?? []).map((fault) => ({
      finding: planFindingOf(check, fault),
      fault: { check, ...fault },
    })),
  );
}

/** Under this key faults are told as one; null where each stands alone. */
export const causeKey = ({ check, cause }: Fault): string | null => (cause === null ? null : `${check} ${cause}`);

/** Faults of one cause: the finding that is hurt first, and every link with its people. */
interface Group {
  first: Finding;
  linkIds: string[];
  people: number;
}

function merged({ first, linkIds, people }: Group): Finding {
  if (linkIds.length === 1) return people === first.people ? first : { ...first, people };
  const others = linkIds.slice(1).map((id) => ({ kind: "links" as const, id }));
  return { ...first, people, about: [...first.about, ...others], what: `${first.what} (${linkIds.length} links)` };
}

function isAlike(x: Finding, y: Finding): boolean {
  return (
    x.what === y.what &&
    x.why === y.why &&
    x.where === y.where &&
    x.people === y.people &&
    x.linkId === y.linkId &&
    x.figure?.value === y.figure?.value &&
    x.figure?.unit === y.figure?.unit &&
    x.about.length === y.about.length &&
    x.about.every(({ kind, id }, i) => kind === y.about[i]!.kind && id === y.about[i]!.id)
  );
}

/**
 * All that is wrong with a plan whose links are looked at, by how many people it hurts. Faults with one cause are one finding:
 * it names the link hurt first, counts everybody once, and says how many links share it. A finding that stands as one of
 * `previous` does is that very object.
 */
export function groupedFindings(
  world: World,
  found: ReadonlyMap<string, readonly Found[]>,
  summaries: ReadonlyMap<string, LinkSummary>,
  previous: readonly Finding[],
): Finding[] {
  const backbone = backboneOf(world);
  const groups: Group[] = [];
  const byCause = new Map<string, Group>();
  for (const [linkId, all] of found) {
    if (all.length === 0) continue;
    // Who is behind a bridge follows from the whole network, not from the bridge alone.
    const people = peopleBehind(world, world.links.get(linkId)!, backbone);
    for (const { fault, finding } of all) {
      const key = causeKey(fault);
      const known = key === null ? undefined : byCause.get(key);
      if (!known) {
        const group = { first: finding, linkIds: [linkId], people };
        groups.push(group);
        if (key !== null) byCause.set(key, group);
      } else if (known.linkIds.at(-1) !== linkId) {
        known.linkIds.push(linkId);
        known.people += people;
      }
    }
  }
  const before = new Map(previous.map((finding) => [finding.id, finding]));
  const asBefore = (finding: Finding) => {
    const old = before.get(finding.id);
    return old && isAlike(old, finding) ? old : finding;
  };
  const ofPlan = planFaults(world, summaries).map(({ finding }) => finding);
  return [...groups.map(merged), ...ofPlan].map(asBefore).sort(byPeopleHurt);
}

/** The fault, and the link of it where it is one link's, that a finding was made from; null where the plan has no such finding. */
export function faultBehind(
  world: World,
  found: ReadonlyMap<string, readonly Found[]>,
  summaries: ReadonlyMap<string, LinkSummary>,
  finding: Finding,
): { fault: Fault; linkId: string | null } | null {
  const [linkId] = linksOf(finding);
  const own = linkId && found.get(linkId)?.find((one) => one.finding.id === finding.id);
  if (own) return { fault: own.fault, linkId };
  const ofPlan = planFaults(world, summaries).find((one) => one.finding.id === finding.id);
  return ofPlan ? { fault: ofPlan.fault, linkId: null } : null;
}
