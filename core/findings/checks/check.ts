import type { Backhaul } from "../../capacity";
import type { LinkAnswer, Tape } from "../../link";
import { wantedMarginDb } from "../../link";
import { linkEnds, type Link, type LinkEnd, type Measurement, type RowKind, type World } from "../../plan";
import type { LinkSummary, ProfileSource } from "../../outcome";
import type { Change, Remedy } from "../../trial";
import type { StageId } from "../stages";

/** What the changes of one link are made from: its ends, its present answer and the ground. */
export interface RemedyCase {
  world: World;
  link: Link;
  a: LinkEnd;
  b: LinkEnd;
  answer: LinkAnswer;
  profileBetween: ProfileSource;
}

/** Something of a plan that a finding is about. */
export interface Thing {
  kind: RowKind;
  id: string;
}

/** By how much something is wrong. */
export interface Figure {
  value: number;
  unit: string;
}

/** What is wrong with one link, before anyone has looked for remedies. */
export interface LinkFault {
  /** The radio at fault where it is one end's. */
  radioId: string | null;
  /** What is wrong and by how much, in words. */
  what: string;
  why: string;
  figure: Figure | null;
  /** Faults of one check with the same cause are one finding, however many links they hurt; null where each stands alone. */
  cause: string | null;
}

/** What is wrong with something else than one link. */
export interface PlanFault extends LinkFault {
  about: Thing[];
  where: string;
  people: number;
  /** The link to look at first; null if the finding concerns no link. */
  linkId: string | null;
}

/** What remedies are worked out with: the ground, and the checks that find something in an answered link. */
export interface RemedyTools {
  profileBetween: ProfileSource;
  checksOf: (world: World, link: Link, answer: LinkAnswer) => string[];
}

/** One answered link as the checks look at it. */
export interface LinkCase {
  world: World;
  link: Link;
  a: LinkEnd;
  b: LinkEnd;
  answer: LinkAnswer;
  /** Its newest reading. */
  measurement: Measurement | null;
}

/** A link whose path is answered, with what decides which of several faults is the cause of the others. */
export interface PathCase extends LinkCase {
  path: NonNullable<LinkAnswer["path"]>;
  /** Each direction with the end that sends. */
  ways: readonly (readonly [tape: Tape, from: LinkEnd])[];
  /** The direction with less margin left, whom it reaches, and the margin wanted there. */
  weaker: Tape;
  toward: string;
  wantedDb: number;
  isWeak: boolean;
  isThin: boolean;
  /** Noise is the cause: without it the link would be fine. */
  isNoise: boolean;
  /** A cut line is the one cause of what it does to the level. */
  isCut: boolean;
}

/**
 * One thing that can be wrong. A check is one file of this folder and one line of its index: nothing else lists them. The
 * order there is by weight, worst first.
 */
export interface Check {
  id: string;
  /** How it is said to a reader. */
  title: string;
  /** In whose work it is mended. */
  stage: StageId;
  /** What is wrong with a link, whether or not its path has an answer. */
  ofLink?: (one: LinkCase) => LinkFault[];
  /** What is wrong with a link whose path is answered. */
  ofPath?: (one: PathCase) => LinkFault[];
  /** What is wrong with things that are no single link. */
  ofPlan?: (world: World, summaries: ReadonlyMap<string, LinkSummary>, backhaul: Backhaul) => PlanFault[];
  /** Changes that could resolve a fault of one link, untried. */
  candidates?: (given: RemedyCase, fault: LinkFault) => Iterable<Change>;
  /** Ways out that are worked out otherwise than by trying changes on one link. */
  remedies?: (
    world: World,
    fault: LinkFault & Partial<Pick<PlanFault, "linkId" | "about">>,
    tools: RemedyTools,
  ) => Remedy[];
  /** Whether a search over moves and relays may find what no single change does. */
  isSearched?: boolean;
  /** True if such a plan cannot be built; a change that would cause it is never proposed. */
  isBreaking?: boolean;
  /** About what arrives: what then lets nothing pass, for whatever other reason, is no way out of it. */
  isAboutLevel?: boolean;
  /** Must go even if others pay for it; the remedy then says who does. */
  mustGo?: boolean;
  /** What turning power down may bring about; a remedy's figures show it. */
  comesOfLessPower?: boolean;
}

/** Less noise than this above thermal is no reason of its own, dB. */
const NAMED_NOISE_DB = 3;

/** A link as the checks look at it. */
export function linkCase(world: World, link: Link, answer: LinkAnswer, measurement: Measurement | null): LinkCase {
  return { world, link, ...linkEnds(world, link), answer, measurement };
}

/** The same once its path is answered; null where it is not. */
export function pathCase(one: LinkCase): PathCase | null {
  const { world, a, b, answer } = one;
  const { path } = answer;
  if (!path) return null;
  const { aToB, bToA, clearance, diffractionDb, trees, mismatches } = path;
  const weaker = aToB.marginLeftDb <= bToA.marginLeftDb ? aToB : bToA;
  const wantedDb = wantedMarginDb(world.plan, a.radio.frequencyMHz);
  const isSilent = mismatches.length > 0 || aToB.overloadDb > 0 || bToA.overloadDb > 0;
  const isWeak = !isSilent && (weaker.fadeMarginDb < 0 || !weaker.modulation);
  const isThin = !isSilent && !isWeak && weaker.marginLeftDb < wantedDb;
  const { riseDb } = weaker.noise;
  return {
    ...one,
    path,
    ways: [
      [aToB, a],
      [bToA, b],
    ],
    weaker,
    toward: weaker.question.to.placeName,
    wantedDb,
    isWeak,
    isThin,
    isNoise: (isWeak || isThin) && riseDb >= NAMED_NOISE_DB && weaker.marginLeftDb + riseDb >= wantedDb,
    isCut: clearance.state === "blocked" && weaker.marginLeftDb + diffractionDb + trees.lossDb >= wantedDb,
  };
}

/** What is wrong with a sector itself is wrong once, not once for every customer. */
export function ownCause({ radio }: LinkEnd): string | null {
  return radio.role === "sector" ? radio.id : null;
}

/** The end of a link at which a fault lies, and the other one. */
export function endsOf({ a, b }: RemedyCase, { radioId }: LinkFault): { end: LinkEnd; other: LinkEnd } {
  return radioId === a.radio.id ? { end: a, other: b } : { end: b, other: a };
}
