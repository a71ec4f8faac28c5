import { linkEnds, type Patch, type Link, type LinkEnd, type World } from "../plan";
import { peopleBehind } from "./outcome";

export const FINDING_KINDS = [
  "unanswered",
  "mismatch",
  "overload",
  "outOfBand",
  "tooHigh",
  "tooFar",
  "blocked",
  "weak",
  "noise",
  "airtime",
  "demand",
  "overEirp",
  "uncovered",
  "indoorOnly",
  "failed",
  "doubtful",
  "tight",
  "trees",
  "margin",
  "ownNoise",
  "polarization",
  "bracket",
  "misaimed",
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

/** A computed way out: patches that were tried and found to resolve the finding, or a visit with a reading to take. */
export interface Remedy {
  label: string;
  effect: string;
  patches: Patch[];
  /** Set where the way out is a new reading rather than a change of plan. */
  visit: boolean;
}

export interface Finding {
  id: string;
  kind: FindingKind;
  /** The link to look at, and all links that the same cause hurts. */
  linkId: string;
  linkIds: string[];
  /** The radio at fault where it is one end's. */
  radioId: string | null;
  where: string;
  /** What is wrong and by how much. */
  what: string;
  why: string;
  people: number;
  /** Null while nobody has looked for them: in a large plan only the findings that hurt most are worked out at once. */
  remedies: Remedy[] | null;
}

/** A fault of one link before anyone has looked for remedies. */
export interface Fault {
  kind: FindingKind;
  radioId: string | null;
  what: string;
  why: string;
  /** Faults of one kind with the same cause are one finding, however many links they hurt; null where each stands alone. */
  cause: string | null;
}

/** How a state is said to a reader, by kind. */
export const FINDING_TITLES: Record<FindingKind, string> = {
  unanswered: "No answer",
  mismatch: "Ends do not match",
  overload: "Receiver overloaded",
  noise: "Drowned in noise",
  airtime: "Out of airtime",
  demand: "Less than asked for",
  ownNoise: "Own transmitters collide",
  outOfBand: "Out of band",
  tooHigh: "Above the structure",
  tooFar: "Beyond its timing",
  blocked: "Blocked",
  weak: "No modulation holds",
  overEirp: "Over the cap",
  uncovered: "No rule",
  indoorOnly: "Indoor band",
  failed: "Failed its proof",
  doubtful: "Doubtful proof",
  tight: "Zone intruded",
  trees: "Trees in the ray",
  margin: "Thin margin",
  polarization: "Unequal polarization",
  bracket: "Beyond the bracket",
  misaimed: "Outside the beam",
};

/** A fault placed in the plan, its people counted, remedies still to come. */
export function findingOf(world: World, link: Link, fault: Fault): Finding {
  const { a, b } = linkEnds(world, link);
  const end: LinkEnd | null = fault.radioId === a.radio.id ? a : fault.radioId === b.radio.id ? b : null;
  return {
    kind: fault.kind,
    radioId: fault.radioId,
    what: fault.what,
    why: fault.why,
    id: `${link.id}:${fault.kind}:${fault.radioId ?? ""}`,
    linkId: link.id,
    linkIds: [link.id],
    where: end ? `${end.radio.name} at ${end.placeName}` : `${a.placeName} – ${b.placeName}`,
    people: peopleBehind(world, link),
    remedies: null,
  };
}

/** Those that hurt most people first, then the worst kinds; the id settles the rest. */
export function byPeopleHurt(x: Finding, y: Finding): number {
  return (
    y.people - x.people || FINDING_KINDS.indexOf(x.kind) - FINDING_KINDS.indexOf(y.kind) || x.id.localeCompare(y.id)
  );
}
