import { withPatches } from "#core/plan";
import { useCallback, useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import type { ChangeWire, PlanWire } from "#wire";
import { deskDataAfter, deskDataOf, type DeskData } from "./deskData";
import { requestJson } from "../ask/request";

/** The line to the server is opened once the page is at rest. */
const OPEN_AFTER_MS = 1500;
/** How long to wait before asking again a server that did not answer. */
const RETRY_MS = 3000;

interface Following {
  data: DeskData;
  /** Fetches what has changed since; done when the desk has it. */
  follow: () => Promise<void>;
}

/**
 * A plan as it is kept, followed: after a change, here or in another window, only what differs is fetched. `told` is the newest
 * revision that this window has heard of by other ways.
 */
export function useFollowing(packed: string, told: number): Following {
  const [data, setData] = useState<DeskData>(() => deskDataOf(JSON.parse(packed) as PlanWire));
  const { revalidate } = useRevalidator();
  const latest = useRef(data);
  const last = useRef(packed);
  const put = useCallback((next: DeskData) => {
    latest.current = next;
    setData(next);
  }, []);
  // Another plan, or this one sent whole again.
  useEffect(() => {
    if (last.current === packed) return;
    last.current = packed;
    put(deskDataOf(JSON.parse(packed) as PlanWire));
  }, [packed, put]);

  const turn = useRef<Promise<void>>(Promise.resolve());
  const follow = useCallback(() => {
    const once = async () => {
      const { world, revision, shown, unsettled } = latest.current;
      const state = { created: world.plan.createdAt, revision: String(revision) };
      const query = new URLSearchParams({
        ...state,
        ...(shown ? {} : { all: "1" }),
        ...(unsettled === null ? {} : { unsettled: String(unsettled) }),
      });
      const address = `/plans/${encodeURIComponent(world.plan.id)}/since?${query.toString()}`;
      const change = await requestJson<ChangeWire | { anew: true }>(address);
      if ("anew" in change) return void window.location.reload();
      // While this was on its way, another plan may have been opened.
      if (latest.current.world.plan.id !== world.plan.id || latest.current.revision !== revision) return;
      if (change.revision === revision && shown && unsettled === null) return;
      const after = deskDataAfter(latest.current, change, withPatches(world, change.patches));
      if (!after) return void window.location.reload();
      put(after);
    };
    // One after the other: what the first one brings, the second need not fetch again.
    return (turn.current = turn.current.then(once, once));
  }, [put]);

  const planId = data.world.plan.id;
  const isWaiting = data.shown === null || data.unsettled !== null;
  useEffect(() => {
    if (!isWaiting) return;
    let timer: ReturnType<typeof setTimeout>;
    const ask = () => void follow().catch(() => (timer = setTimeout(ask, RETRY_MS)));
    ask();
    return () => clearTimeout(timer);
  }, [isWaiting, planId, follow]);
  const hear = useCallback(
    (revision: number) => {
      if (revision === latest.current.revision) return;
      void follow()
        .then(revalidate)
        .catch(() => undefined);
    },
    [follow, revalidate],
  );
  useEffect(() => {
    if (told !== latest.current.revision) void follow().catch(() => undefined);
  }, [told, follow]);
  useEffect(() => {
    let line: EventSource | null = null;
    const timer = setTimeout(() => {
      line = new EventSource(`/plans/${encodeURIComponent(planId)}/events`);
      line.onmessage = ({ data: revision }) => hear(Number(revision));
    }, OPEN_AFTER_MS);
    return () => {
      clearTimeout(timer);
      line?.close();
    };
  }, [planId, hear]);
  return { data, follow };
}
