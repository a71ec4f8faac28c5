import { findingsInHand } from "#core/evaluate";
import { outcomeOf, summarize, type LinkSummary, type Outcome } from "#core/outcome";
import type { Finding } from "#core/findings";
import type { Place } from "#core/geodesy";
import { earsOf, hearersOf, listeningIn, pairsHeard } from "#core/interference";
import { answerLink, type LinkAnswer } from "#core/link";
import { linkEnds, radiosTouched, withPatches, type Patch, type Link, type World } from "#core/plan";
import { createContext, useCallback, useContext, useMemo, useRef, useState, type ReactNode } from "react";
import type { HeatMark } from "../map/types";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { useHeard, type HeardBy } from "./useHeard";
import { useDraft, type Draft } from "./draft";
import { useProfiles, type Pair, type Profiles } from "./profiles";
import type { DeskData } from "../follow/deskData";
import { countsOf, STAGES, type Shown, type Stage } from "#wire";
import { useSelection, type Selection } from "./selection";

export interface Desk {
  data: DeskData;
  kept: World;
  /** The plan with the change in hand applied. */
  world: World;
  draft: Draft;
  selection: Selection;
  select: (next: Selection) => void;
  /** The selected link, in hand or kept. */
  link: Link | null;
  /** Its answer in hand, once its profile is here. */
  answer: LinkAnswer | null;
  summaries: ReadonlyMap<string, LinkSummary>;
  /** Null while the plan is still being worked out. */
  outcome: Outcome | null;
  /** What is wrong with the plan as it is in hand: the first findings of each stage, and those of the selected link. */
  findings: readonly Finding[];
  /** How many findings each stage has. */
  counts: Record<Stage, number>;
  /** False while a changed link still waits for its profile. */
  settled: boolean;
  profiles: Profiles;
  /** Places marked on the plan by how a path would be from there. */
  heat: HeatMark[] | null;
  setHeat: (heat: HeatMark[] | null) => void;
  /** Places that the plan was last asked to show whole. */
  lookedAt: readonly Place[] | null;
  lookAt: (places: readonly Place[]) => void;
}

const DeskReact = createContext<Desk | null>(null);

export function useDesk(): Desk {
  const desk = useContext(DeskReact);
  if (!desk) throw new Error("useDesk stands outside its provider");
  return desk;
}

const NO_FINDINGS: readonly Finding[] = [];

/** How many findings each stage has in hand: those that the kept plan has, with what the change adds to those that are here. */
function countsInHand(shown: Shown | null, findings: readonly Finding[]): Record<Stage, number> {
  const [now, before] = [countsOf(findings), countsOf(shown?.findings ?? NO_FINDINGS)];
  const kept = shown?.counts ?? before;
  return Object.fromEntries(
    STAGES.map((stage) => [stage, Math.max(0, kept[stage] + now[stage] - before[stage])]),
  ) as Record<Stage, number>;
}

/** In a larger plan what everybody hears is asked of the server, and what a change does to others' noise is worked out when it is kept. */
const MOST_LINKS_HEARD_IN_HAND = 500;

/** Links whose answer the patches may have changed, those that hear a changed sector or bridge among them. */
function affectedLinks(kept: World, world: World, patches: readonly Patch[]): Link[] {
  if (patches.length === 0) return [];
  const hears = world.links.size <= MOST_LINKS_HEARD_IN_HAND ? hearersOf(kept, world, patches) : () => false;
  const everything = patches.some((patch) => patch.kind === "plans" || patch.kind === "equipment");
  const touched = new Set(patches.map((patch) => patch.id));
  const radios = radiosTouched([kept, world], patches);
  return [...world.links.values()].filter((link) => {
    if (everything || touched.has(link.id) || radios.has(link.aRadioId) || radios.has(link.bRadioId)) return true;
    const { a, b } = linkEnds(world, link);
    return [a, b].some(
      (end) => touched.has(end.radio.siteId ?? "") || touched.has(end.radio.subscriberId ?? "") || hears(end.radio),
    );
  });
}

interface Answered {
  plan: World["plan"];
  link: Link;
  ends: unknown[];
  profile: unknown;
  heardDbm: (number | null)[];
  answer: LinkAnswer;
}

export function DeskProvider({
  data,
  follow,
  children,
}: {
  data: DeskData;
  follow: () => Promise<void>;
  children: ReactNode;
}) {
  const { world: kept } = data;
  const { revalidate } = useRevalidator();
  const reload = useCallback(async () => {
    const [followed] = await Promise.allSettled([follow(), revalidate()]);
    if (followed.status === "rejected")
      toast.error("Tejado does not answer: this window does not show the newest state. Reload it.");
  }, [follow, revalidate]);
  const draft = useDraft(kept, data.revision, reload);
  const world = useMemo(() => withPatches(kept, draft.patches), [kept, draft.patches]);
  const [selection, select] = useSelection();
  const [heat, setHeat] = useState<HeatMark[] | null>(null);
  const [lookedAt, setLookedAt] = useState<readonly Place[] | null>(null);
  const lookAt = useCallback((places: readonly Place[]) => setLookedAt([...places]), []);
  const link = (selection?.kind === "link" && world.links.get(selection.id)) || null;

  const affected = useMemo(() => affectedLinks(kept, world, draft.patches), [kept, world, draft.patches]);
  const isLarge = world.links.size > MOST_LINKS_HEARD_IN_HAND;
  const listening = useMemo(() => (isLarge ? null : listeningIn(world)), [isLarge, world]);
  const wanted = useMemo(() => {
    const links = link && !affected.includes(link) ? [...affected, link] : affected;
    return links.map((one) => {
      const { a, b } = linkEnds(world, one);
      const heard: Pair[] = listening ? pairsHeard(listening, one) : [];
      return { link: one, a, b, pair: [a.place, b.place] as Pair, heard };
    });
  }, [affected, link, world, listening]);
  const profiles = useProfiles(
    kept.plan.id,
    data.terrain?.version ?? "none",
    wanted.flatMap(({ pair, heard }) => [pair, ...heard]),
  );

  // Choosing something draws the desk anew, but changes nothing of what anybody hears.
  const heardByServer = useHeard(kept.plan.id, data.revision, isLarge ? wanted.map(({ link: { id } }) => id) : []);
  const heardBy: HeardBy = useMemo(() => {
    if (!listening) return heardByServer;
    const hears = earsOf(listening, (from, to) => profiles.get([from, to]));
    return new Map(wanted.map(({ link: one }) => [one.id, hears(one)]));
  }, [wanted, listening, profiles, heardByServer]);

  // A drag changes one radio: every other link's answer is taken over from the render before.
  const answered = useRef(new Map<string, Answered>());
  const answers = new Map<string, LinkAnswer>();
  const next = new Map<string, Answered>();
  for (const { link: one, a, b, pair } of wanted) {
    const profile = profiles.get(pair);
    if (!profile) continue;
    const ends = [a.radio, a.model, a.antenna, b.radio, b.model, b.antenna, a.behind, b.behind];
    const heard = heardBy.get(one.id);
    const heardDbm = heard ? [heard.a.dbm, heard.b.dbm] : [];
    const before = answered.current.get(one.id);
    const same =
      before &&
      before.plan === world.plan &&
      before.link === one &&
      before.profile === profile &&
      before.heardDbm.length === heardDbm.length &&
      before.heardDbm.every((dbm, i) => dbm === heardDbm[i]) &&
      before.ends.every((end, i) => end === ends[i]);
    const answer = same
      ? before.answer
      : answerLink({
          plan: world.plan,
          kind: one.kind,
          foliageDepthM: one.foliageDepthM,
          a,
          b,
          profile,
          ...(heard ? { heard } : {}),
        });
    next.set(one.id, { plan: world.plan, link: one, ends, profile, heardDbm, answer });
    answers.set(one.id, answer);
  }
  answered.current = next;

  const summaries = new Map(data.summaries);
  for (const one of affected) {
    const answer = answers.get(one.id);
    if (answer) summaries.set(one.id, summarize(world, one, answer));
  }
  const inHand = draft.patches.length > 0;
  const outcome = data.shown && inHand ? outcomeOf(world, summaries) : (data.shown?.outcome ?? null);
  const findingsKept = data.shown?.findings ?? NO_FINDINGS;
  // Of a large plan only the first findings are here: those of the selected link are found from its own answer.
  const here = countsOf(findingsKept);
  const isCut = data.shown !== null && STAGES.some((stage) => data.shown!.counts[stage] > here[stage]);
  const looked = isCut && link && !affected.includes(link) ? [...affected, link] : affected;
  const touched = new Map(looked.flatMap(({ id }) => (answers.has(id) ? [[id, answers.get(id)!] as const] : [])));
  const findings = inHand || touched.size > 0 ? findingsInHand(world, findingsKept, touched, summaries) : findingsKept;
  const counts = inHand ? countsInHand(data.shown, findings) : (data.shown?.counts ?? countsOf(NO_FINDINGS));

  const desk: Desk = {
    data,
    kept,
    world,
    draft,
    selection,
    select,
    link,
    answer: (link && answers.get(link.id)) || null,
    summaries,
    outcome,
    findings,
    counts,
    settled: affected.every((one) => answers.has(one.id)),
    profiles,
    heat,
    setHeat,
    lookedAt,
    lookAt,
  };
  return <DeskReact.Provider value={desk}>{children}</DeskReact.Provider>;
}
