import { answersKept, heardBefore, reachOf, stepsInHand, type Answers } from "#core/evaluate";
import type { KnownProfile } from "#core/interference";
import type { Link, Patch, World } from "#core/plan";
import { useCallback, useMemo, useRef } from "react";
import type { DeskData } from "./deskData";
import { useAir } from "./useAir";
import { useFetched, useProfiles, type Pair, type Profiles } from "./profiles";
import { NOTHING_HEARD, useHeard, type Heard } from "./useHeard";
import { useStepped } from "./useStepped";

/** In a larger plan what a change does to others' noise is worked out when it is kept. */
const MOST_LINKS_HEARD_IN_HAND = 500;

/** What is worked out of the change in hand, and of the chosen link. */
interface InHand {
  /** Links that the change reaches: their answers are those of the change, as far as they are known. */
  linkIds: ReadonlySet<string>;
  answers: Answers["answers"];
  summaries: Answers["summaries"];
  profiles: Profiles;
  /** Whether all of that is of the patches given, and not of those before them. */
  isDone: boolean;
}

/**
 * The change in hand worked out over the kept plan by the engine's own steps: the links that it reaches and the chosen one, over
 * profiles that are fetched as the steps ask for them, and over what the kept ends hear, as the server says.
 */
export function useInHand(data: DeskData, world: World, patches: readonly Patch[], chosen: Link | null): InHand {
  const { world: kept, revision, summaries } = data;
  const planId = kept.plan.id;
  const terrainVersion = data.terrain?.version ?? "none";
  const profiles = useProfiles(planId, terrainVersion);
  const isLarge = world.links.size > MOST_LINKS_HEARD_IN_HAND;
  const air = useAir(kept, isLarge);
  const reach = useMemo(
    () => reachOf(kept, air, world, patches, { chosen, withHearers: !isLarge }),
    [kept, air, world, patches, chosen, isLarge],
  );
  // A drag makes a reach for every frame; as a text it stays the same while it names the same links.
  const asked = heardBefore(kept, reach).join("\n");
  const askedIds = useMemo(() => (asked === "" ? [] : asked.split("\n")), [asked]);
  const scope = `${planId} ${revision} ${terrainVersion}`;
  const last = useRef<{ scope: string; heard: Heard; carried: Heard; answers: Answers["answers"] }>(null);
  // Until the server says what is heard after a change was kept, it is what was heard with the change in hand.
  const carried = last.current?.scope === scope ? last.current.carried : (last.current?.heard ?? NOTHING_HEARD);
  const fromServer = useHeard(planId, revision, askedIds);

  const base = useMemo(() => {
    const { pairs, between } = asking(profiles);
    const known: Answers = {
      heardNear: new Map([...carried.near, ...fromServer.near]),
      heardFar: new Map([...carried.far, ...fromServer.far]),
      answers: last.current?.scope === scope ? last.current.answers : new Map(),
      summaries,
      answered: new Set(),
    };
    return { ...answersKept(kept, known, askedIds, between), pairs };
  }, [scope, profiles, carried, fromServer, summaries, kept, askedIds]);
  const begin = useCallback(
    function* () {
      const { pairs, between } = asking(profiles);
      return { ...(yield* stepsInHand(world, base, reach, between)), pairs };
    },
    [base, world, reach, profiles],
  );
  const { value: inHand, isDone } = useStepped(patches.length === 0 ? null : begin, base, isLarge);
  const pairs = useMemo(() => [...base.pairs, ...(inHand === base ? [] : inHand.pairs)], [base, inHand]);
  useFetched(profiles, pairs);

  last.current = {
    scope,
    carried,
    heard: { near: inHand.heardNear, far: inHand.heardFar },
    answers: base.answers,
  };
  return { linkIds: reach.linkIds, answers: inHand.answers, summaries: inHand.summaries, profiles, isDone };
}

/** Profiles that are here, and a list of all that were asked for. */
function asking(profiles: Profiles): { pairs: Pair[]; between: KnownProfile } {
  const pairs: Pair[] = [];
  const between: KnownProfile = (from, to) => {
    pairs.push([from, to]);
    return profiles.get([from, to]);
  };
  return { pairs, between };
}
