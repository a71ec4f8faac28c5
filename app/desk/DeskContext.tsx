import { NO_RATE_CHANGES, rateChangeSteps, type RateChanges } from "#core/channels";
import { findingsInHandSteps } from "#core/evaluate";
import { changesNoise, outcomeSteps, type LinkSummary, type Outcome } from "#core/outcome";
import { countsByStage, STAGE_IDS, type Finding, type StageId } from "#core/findings";
import type { Place } from "#core/geodesy";
import type { LinkAnswer } from "#core/link";
import { withPatches, type Link, type LinkState, type World } from "#core/plan";
import { linkStates } from "#core/proof";
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from "react";
import type { HeatMark } from "../map/types";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { useDraft, type Draft } from "./draft";
import { useInHand } from "./useInHand";
import { useResting } from "../ui/useResting";
import { useStepped } from "./useStepped";
import type { Profiles } from "./profiles";
import type { DeskData } from "./deskData";
import type { Shown } from "#wire";
import { useSelection, type Selection } from "./selection";

export interface Desk {
  data: DeskData;
  kept: World;
  /** The plan with the change in hand applied. */
  world: World;
  /** The same, of a large plan as it was when the hand last rested: what takes long to list is listed from it. */
  rested: World;
  draft: Draft;
  selection: Selection;
  select: (next: Selection) => void;
  /** The selected link, in hand or kept. */
  link: Link | null;
  /** Its answer in hand, once its profile is here. */
  answer: LinkAnswer | null;
  /** Answers of the links that the change in hand reaches, and of the selected one. */
  answers: ReadonlyMap<string, LinkAnswer>;
  summaries: ReadonlyMap<string, LinkSummary>;
  /** A link's state by its newest measurement and the criteria of now. */
  stateOf: (linkId: string) => LinkState;
  /** Null while the plan is still being worked out. */
  outcome: Outcome | null;
  /** Whose rates the change in hand moves. */
  rates: RateChanges;
  /** What is wrong with the plan as it is in hand: the first findings of each stage, and those of the selected link. */
  findings: readonly Finding[];
  /** How many findings each stage has. */
  counts: Record<StageId, number>;
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

/** In a larger plan what a change does is worked out once the hand rests for so long, ms: the drag itself waits for nothing. */
const MOST_LINKS_AT_ONCE = 500;
const REST_MS = 250;

/** How many findings each stage has in hand: those that the kept plan has, with what the change adds to those that are here. */
function countsInHand(shown: Shown | null, findings: readonly Finding[]): Record<StageId, number> {
  const [now, before] = [countsByStage(findings), countsByStage(shown?.findings ?? NO_FINDINGS)];
  const kept = shown?.counts ?? before;
  return Object.fromEntries(
    STAGE_IDS.map((stage) => [stage, Math.max(0, kept[stage] + now[stage] - before[stage])]),
  ) as Record<StageId, number>;
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

  const inHand = draft.patches.length > 0;
  const isLarge = kept.links.size > MOST_LINKS_AT_ONCE;
  const patches = useResting(draft.patches, isLarge ? REST_MS : 0, !inHand);
  const worked = useMemo(() => withPatches(kept, patches), [kept, patches]);
  const workedLink = (link && worked.links.get(link.id)) ?? null;
  const { linkIds, answers, summaries, profiles, isDone } = useInHand(data, worked, patches, workedLink);
  const findingsKept = data.shown?.findings ?? NO_FINDINGS;
  const { summaries: keptSummaries } = data;
  const told = useCallback(
    function* () {
      const outcome =
        data.shown && inHand
          ? yield* outcomeSteps(worked, summaries, changesNoise(patches) ? null : data.shown.outcome.noiseMadePeopleKm2)
          : (data.shown?.outcome ?? null);
      // Of a large plan only the first findings are here: those of the selected link are found from its own answer.
      const here = countsByStage(findingsKept);
      const isCut = data.shown !== null && STAGE_IDS.some((stage) => data.shown!.counts[stage] > here[stage]);
      const reached = [...linkIds].filter((id) => inHand || isCut || id !== workedLink?.id);
      const touched = new Map(reached.flatMap((id) => (answers.has(id) ? [[id, answers.get(id)!] as const] : [])));
      const findings =
        inHand || touched.size > 0
          ? yield* findingsInHandSteps(worked, findingsKept, touched, summaries)
          : findingsKept;
      const rates = inHand ? yield* rateChangeSteps(worked, keptSummaries, summaries) : NO_RATE_CHANGES;
      return { outcome, findings, rates };
    },
    [data.shown, findingsKept, keptSummaries, linkIds, answers, summaries, inHand, worked, patches, workedLink?.id],
  );
  const asKept = useMemo(
    () => ({ outcome: data.shown?.outcome ?? null, findings: findingsKept, rates: NO_RATE_CHANGES }),
    [data.shown, findingsKept],
  );
  const {
    value: { outcome, findings, rates },
    isDone: isTold,
  } = useStepped(told, asKept, isLarge && inHand);
  const counts = useMemo(
    () => (inHand ? countsInHand(data.shown, findings) : (data.shown?.counts ?? countsByStage(NO_FINDINGS))),
    [inHand, data.shown, findings],
  );

  const states = useMemo(() => linkStates(worked), [worked]);
  const stateOf = useCallback((linkId: string) => states.get(linkId) ?? "planned", [states]);

  const desk: Desk = {
    data,
    kept,
    world,
    rested: worked,
    draft,
    selection,
    select,
    link,
    answer: (link && answers.get(link.id)) || null,
    answers,
    summaries,
    stateOf,
    outcome,
    rates,
    findings,
    counts,
    settled: !inHand || (patches === draft.patches && isDone && isTold && [...linkIds].every((id) => answers.has(id))),
    profiles,
    heat,
    setHeat,
    lookedAt,
    lookAt,
  };
  return <DeskReact.Provider value={desk}>{children}</DeskReact.Provider>;
}
