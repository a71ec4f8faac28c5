import type { Remedy } from "../trial";
import { linkEnds, type Link, type LinkEnd, type World } from "../plan";
import { inOnePiece } from "../words";
import { checkOf, weightOf } from "./checks";
import type { StageId } from "./stages";
import type { Figure, LinkFault, PlanFault, Thing } from "./checks/check";
import { peopleBehind, type Backbone } from "../outcome";

/** A fault of one link with the check that found it, before anyone has looked for remedies. */
export type Fault = LinkFault & { check: string };

/** Something wrong with a plan: found by a check, about things, with the people that it hurts. */
export interface Finding {
  id: string;
  check: string;
  /** How it is said to a reader, and in whose work it is mended. */
  title: string;
  stage: StageId;
  /** What it is about: the radio or site at fault, and every link that the same cause hurts. */
  about: Thing[];
  /** The link to look at first; null where it is about no link. */
  linkId: string | null;
  where: string;
  /** What is wrong and by how much, in words and as a figure; null where it has none. */
  what: string;
  figure: Figure | null;
  why: string;
  people: number;
  /** Whether a search over moves and relays may find what no single change does. */
  isSearched: boolean;
  /** Null while nobody has looked for them: in a large plan only the findings that hurt most are worked out at once. */
  remedies: Remedy[] | null;
}

/** The links that a finding is about. */
export const linksOf = ({ about }: Pick<Finding, "about">): string[] =>
  about.flatMap(({ kind, id }) => (kind === "links" ? [id] : []));

/** The radio at fault, where it is one. */
export const radioOf = ({ about }: Pick<Finding, "about">): string | null =>
  about.find(({ kind }) => kind === "radios")?.id ?? null;

/** A fault of a link placed in the plan, its people counted, remedies still to come. */
export function findingOf(
  world: World,
  link: Link,
  { check, radioId, what, why, figure }: Fault,
  backbone?: () => Backbone,
): Finding {
  const { a, b } = linkEnds(world, link);
  const end: LinkEnd | null = radioId === a.radio.id ? a : radioId === b.radio.id ? b : null;
  const { title, stage, isSearched = false } = checkOf(check);
  return {
    check,
    title,
    stage,
    isSearched,
    remedies: null,
    what,
    why,
    figure,
    id: inOnePiece(`${link.id}:${check}:${radioId ?? ""}`),
    about: [...(radioId === null ? [] : [{ kind: "radios" as const, id: radioId }]), { kind: "links", id: link.id }],
    linkId: link.id,
    where: inOnePiece(end ? `${end.radio.name} at ${end.placeName}` : `${a.placeName} – ${b.placeName}`),
    people: peopleBehind(world, link, backbone),
  };
}

/** A fault of something else than one link, remedies still to come. */
export function planFindingOf(check: string, { about, where, what, why, figure, people, linkId }: PlanFault): Finding {
  const [first] = about;
  const { title, stage, isSearched = false } = checkOf(check);
  const id = `${first?.id ?? ""}:${check}`;
  return { check, title, stage, isSearched, remedies: null, id, about, where, what, why, figure, people, linkId };
}

/** Those that hurt most people first, then the worst kinds; the id settles the rest. */
export function byPeopleHurt(x: Finding, y: Finding): number {
  return y.people - x.people || weightOf(x.check) - weightOf(y.check) || (x.id < y.id ? -1 : 1);
}
