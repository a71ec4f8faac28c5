import type { StagingNote } from "#core/staging";
import { toast } from "sonner";
import { useCallback, useEffect, useState } from "react";
import { useJob } from "../work/useJob";
import type { BenchAnswer, BenchAsk } from "./act.server";

const NOT_ANSWERING = "Tejado does not answer; try again.";
/** How often the notes are looked at again, so that two people at one bench see each other's ticks, ms. */
const LOOK_MS = 5000;

/** A plan's bench: what was noted of each device, a run on the practice bench, and the ways to act on both. */
export function useBench(planId: string) {
  const address = `/plans/${planId}/staging`;
  const [notes, setNotes] = useState<ReadonlyMap<string, StagingNote> | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const look = useCallback(
    async (signal?: AbortSignal) => {
      try {
        const response = await fetch(address, { ...(signal ? { signal } : {}) });
        if (!response.ok) return setFailed(await response.text());
        const found = (await response.json()) as StagingNote[];
        setNotes(new Map(found.map((note) => [note.radioId, note])));
        setFailed(null);
      } catch {
        if (!signal?.aborted) setFailed(NOT_ANSWERING);
      }
    },
    [address],
  );
  useEffect(() => {
    const leaving = new AbortController();
    void look(leaving.signal);
    const timer = setInterval(() => void look(leaving.signal), LOOK_MS);
    return () => {
      clearInterval(timer);
      leaving.abort();
    };
  }, [look]);
  const { job, follow, stop } = useJob(
    `/plans/${planId}/jobs`,
    useCallback(() => void look(), [look]),
  );

  /** Sends one thing to be done; answers what came of it, having told whatever went wrong. */
  const act = async (ask: BenchAsk): Promise<BenchAnswer | null> => {
    const response = await fetch(address, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(ask),
    }).catch(() => null);
    if (!response) {
      toast.error(NOT_ANSWERING);
      return null;
    }
    const isJson = response.headers.get("content-type")?.startsWith("application/json") ?? false;
    const answer: BenchAnswer = isJson
      ? ((await response.json()) as BenchAnswer)
      : { ok: false, message: await response.text() };
    if (!answer.ok) toast.error(answer.message);
    else if (answer.message) toast(answer.message);
    if (answer.job) follow(answer.job);
    else if (ask.intent !== "secret") await look();
    return answer;
  };
  return { notes, failed, job, stop, act };
}
