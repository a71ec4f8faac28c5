import type { JobView } from "#jobs";
import { createContext, useCallback, useContext, useEffect, type ReactNode } from "react";
import { useDesk } from "../../desk/DeskContext";
import { JobProgress } from "../../ask/JobProgress";
import { useBeside } from "../../ask/useBeside";
import { useJob } from "../../ask/useJob";
import type { WatchAnswer, WatchAsk } from "./act.server";
import type { WatchKept } from "./kept";

interface Watch {
  kept: WatchKept | null;
  failed: string | null;
  /** A look or a play that is under way or has just ended. */
  job: JobView | null;
  ask: (what: WatchAsk) => Promise<WatchAnswer | null>;
}

const WatchReact = createContext<Watch | null>(null);

export function useWatch(): Watch {
  const watch = useContext(WatchReact);
  if (!watch) throw new Error("the watch is used outside its stage");
  return watch;
}

/** Holds a plan's watch for all views of its stage: a look goes on while one looks elsewhere. */
export function MonitoringProvider({ children }: { children: ReactNode }) {
  const planId = useDesk().kept.plan.id;
  const { kept, failed, look, ask } = useBeside<WatchKept, WatchAsk, WatchAnswer>(`/plans/${planId}/watch/kept`);
  const onEnd = useCallback(() => void look(), [look]);
  const { job, follow, stop } = useJob(`/plans/${planId}/jobs`, onEnd);
  const others = kept?.job ?? null;
  useEffect(() => {
    if (others) follow(others);
    // Followed once for each job, not for each state of it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [others?.id, follow]);
  const asking = async (what: WatchAsk) => {
    const answer = await ask(what);
    if (answer?.job) follow(answer.job);
    await look();
    return answer;
  };
  return (
    <WatchReact.Provider value={{ kept, failed, job, ask: asking }}>
      <div className="flex h-full flex-col">
        {job && job.state !== "done" && (
          <div className="border-b border-rule p-2">
            <JobProgress job={job} onStop={stop} />
          </div>
        )}
        <div className="min-h-0 flex-1">{children}</div>
      </div>
    </WatchReact.Provider>
  );
}
