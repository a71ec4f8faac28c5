import { backhaulOf } from "../capacity";
import { byPeopleHurt, CHECKS, countsByStage, linksOf, planFindingOf, type Fault, type Finding } from "../findings";
import type { LinkSummary } from "../outcome";
import type { World } from "../plan";
import { finished, type Steps } from "../steps";

/** A fault of one link with its finding, before faults of one cause are told as one. */
export interface Found {
  fault: Fault;
  finding: Finding;
  /** Faults of one key are told as one; null where it stands alone. */
  key: string | null;
}

/** What is wrong with each link. */
export type FoundByLink = ReadonlyMap<string, readonly Found[]>;

/** All that is wrong with a plan, in the layers in which one is made from the other. */
export interface Findings {
  found: FoundByLink;
  /** Findings that several links share, by the key of their cause. */
  shared: ReadonlyMap<string, Finding>;
  /** What is wrong with things that are no single link. */
  ofPlan: readonly Finding[];
  /** All of them by how many people they hurt, without remedies. */
  findings: readonly Finding[];
  /** How many of them each stage has. */
  counts: Readonly<Record<Finding["stage"], number>>;
}

export const NOTHING_FOUND: Findings = {
  ...{ found: new Map(), shared: new Map(), ofPlan: [], findings: [] },
  counts: countsByStage([]),
};

/** What is wrong with things that are no single link, by every check that looks at them, one after the other. */
export function* planFaultSteps(
  world: World,
  summaries: ReadonlyMap<string, LinkSummary>,
): Steps<{ finding: Finding; fault: Fault }[]> {
  // Several checks look at the same tree.
  const backhaul = backhaulOf(world, summaries);
  yield;
  const found: { finding: Finding; fault: Fault }[] = [];
  for (const { id: check, ofPlan } of CHECKS) {
    if (!ofPlan) continue;
    for (const fault of ofPlan(world, summaries, backhaul))
      found.push({ finding: planFindingOf(check, fault), fault: { check, ...fault } });
    yield;
  }
  return found;
}

/** The same at once. */
export const planFaults = (world: World, summaries: ReadonlyMap<string, LinkSummary>) =>
  finished(planFaultSteps(world, summaries));

/** Whether two findings say the same of the same things. */
export function isAlike(x: Finding, y: Finding): boolean {
  return (
    x.id === y.id &&
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

const asBefore = (before: Finding | undefined, now: Finding) => (before && isAlike(before, now) ? before : now);

/** The finding that is hurt first, with every link of its cause and all their people. */
function sharedBy([first, ...others]: readonly Finding[]): Finding {
  if (others.length === 0) return first!;
  const about = [...first!.about, ...others.map(({ linkId }) => ({ kind: "links" as const, id: linkId! }))];
  const people = others.reduce((sum, one) => sum + one.people, first!.people);
  return { ...first!, people, about, what: `${first!.what} (${others.length + 1} links)` };
}

/** Findings of some keys, each over every link that shares its cause. */
function sharedFindings(found: FoundByLink, keys: ReadonlySet<string>): Map<string, Finding> {
  const members = new Map<string, Finding[]>();
  if (keys.size > 0)
    for (const all of found.values())
      for (const { key, finding } of all) {
        if (key === null || !keys.has(key)) continue;
        const known = members.get(key);
        if (!known) members.set(key, [finding]);
        // Faults of one cause at both ends of a link count its people once.
        else if (known.at(-1)!.linkId !== finding.linkId) known.push(finding);
      }
  return new Map([...members].map(([key, findings]) => [key, sharedBy(findings)]));
}

/**
 * All that is wrong with a plan whose links are looked at. Faults with one cause are one finding: it names the link hurt first,
 * counts everybody once, and says how many links share it. Only what differs from `previous` is made and placed anew; a finding
 * that says what it said is the very object of before. `lookedAt` are the links whose faults may be others now.
 */
export function* groupedSteps(
  world: World,
  found: FoundByLink,
  summaries: ReadonlyMap<string, LinkSummary>,
  previous: Findings,
  lookedAt: Iterable<string> = [...found.keys(), ...previous.found.keys()],
): Steps<Findings> {
  const [gone, fresh] = [new Set<Finding>(), new Set<Finding>()];
  const keys = new Set<string>();
  const look = (all: readonly Found[], alone: Set<Finding>) => {
    for (const { key, finding } of all) {
      if (key === null) alone.add(finding);
      else keys.add(key);
    }
  };
  for (const linkId of new Set(lookedAt)) {
    const [before, now] = [previous.found.get(linkId), found.get(linkId)];
    if (before === now) continue;
    if (now) look(now, fresh);
    if (before) look(before, gone);
  }

  const shared = new Map(previous.shared);
  const again = sharedFindings(found, keys);
  for (const key of keys) {
    const [before, now] = [shared.get(key), again.get(key)];
    if (before) gone.add(before);
    if (now) {
      const one = asBefore(before, now);
      shared.set(key, one);
      fresh.add(one);
    } else shared.delete(key);
  }
  const plansBefore = new Map(previous.ofPlan.map((finding) => [finding.id, finding]));
  const faults = yield* planFaultSteps(world, summaries);
  const ofPlan = faults.map(({ finding }) => asBefore(plansBefore.get(finding.id), finding));
  for (const finding of previous.ofPlan) gone.add(finding);
  for (const finding of ofPlan) fresh.add(finding);
  for (const finding of fresh) if (gone.delete(finding)) fresh.delete(finding);
  const counts = counted(previous.counts, gone, fresh);
  return { found, shared, ofPlan, findings: placed(previous.findings, gone, [...fresh]), counts };
}

/** Where a finding stands among ranked ones, or would stand. */
function rankOf(ranked: readonly Finding[], finding: Finding): number {
  let [low, high] = [0, ranked.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ranked[middle] !== finding && byPeopleHurt(ranked[middle]!, finding) < 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Ranked findings without those that are gone, and with the fresh ones in their places; the others are copied in stretches. */
function placed(ranked: readonly Finding[], gone: ReadonlySet<Finding>, fresh: Finding[]): readonly Finding[] {
  if (gone.size + fresh.length === 0) return ranked;
  fresh.sort(byPeopleHurt);
  const leaves = [...gone].map((finding) => rankOf(ranked, finding)).sort((x, y) => x - y);
  const all: Finding[] = [];
  let [from, next] = [0, 0];
  const copyTo = (end: number) => {
    for (; from < end; from++) all.push(ranked[from]!);
  };
  for (const finding of fresh) {
    const place = rankOf(ranked, finding);
    for (; next < leaves.length && leaves[next]! < place; next++) {
      copyTo(leaves[next]!);
      from = leaves[next]! + 1;
    }
    copyTo(place);
    all.push(finding);
  }
  for (; next < leaves.length; next++) {
    copyTo(leaves[next]!);
    from = leaves[next]! + 1;
  }
  copyTo(ranked.length);
  return all;
}

/** How many findings each stage has, after some have gone and others come. */
function counted(before: Findings["counts"], gone: Iterable<Finding>, fresh: Iterable<Finding>): Findings["counts"] {
  const counts = { ...before };
  for (const { stage } of gone) counts[stage]--;
  for (const { stage } of fresh) counts[stage]++;
  return counts;
}

/** The fault, and the link of it where it is one link's, that a finding was made from; null where the plan has no such finding. */
export function faultBehind(
  world: World,
  found: FoundByLink,
  summaries: ReadonlyMap<string, LinkSummary>,
  finding: Finding,
): { fault: Fault; linkId: string | null } | null {
  const [linkId] = linksOf(finding);
  const own = linkId && found.get(linkId)?.find((one) => one.finding.id === finding.id);
  if (own) return { fault: own.fault, linkId };
  const ofPlan = planFaults(world, summaries).find((one) => one.finding.id === finding.id);
  return ofPlan ? { fault: ofPlan.fault, linkId: null } : null;
}
